import { carriedAll } from "../study/study";

/** An address with what is studied, and what the other figure asks for besides. */
export function leadingTo(brand: string, path: string, search: string): string {
  const [place, more] = path.split("?");
  const asked = new URLSearchParams(carriedAll(search));
  for (const [name, value] of new URLSearchParams(more)) {
    // A link made for a network, or a profile's posts: never both.
    if (name === "network") asked.delete("profile");
    if (name === "profile") asked.delete("network");
    asked.set(name, value);
  }
  const query = asked.toString();
  return `/${brand}/${place}${query ? `?${query}` : ""}`;
}
