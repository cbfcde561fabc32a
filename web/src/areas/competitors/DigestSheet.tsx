import { Link } from "react-router";
import { useBrand } from "../../study/brand";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { useDigestPreview } from "./queries";

type Props = { number: number; onClose: () => void };

/** What a set's digest would say, were it written now: who thinks of having it sees what would come. */
export function DigestSheet({ number, onClose }: Props) {
  const { brand } = useBrand();
  const preview = useDigestPreview(brand.slug, number || undefined);
  return (
    <Sheet isOpen onClose={onClose} title={preview.data?.subject ?? "The digest"}>
      {preview.isPending && <Loading what="Comparing the week" />}
      {preview.error && <Failed error={preview.error} onRetry={() => preview.refetch()} />}
      {preview.data && (
        <div className="flex flex-col gap-4">
          {preview.data.text.split("\n\n").map((part) => (
            <Part key={part} lines={part.split("\n")} />
          ))}
          <p className="text-muted">
            The letter of Monday tells of the week up to Sunday; this one of the last seven days.
          </p>
        </div>
      )}
    </Sheet>
  );
}

/** A part with a title has a line for each thing; what has none is said as it stands. */
function Part({ lines }: { lines: string[] }) {
  const [title, ...rest] = lines;
  if (!rest.some((line) => line.startsWith("- ")))
    return (
      <div>
        {lines.map((line) => (
          <p key={line}>
            <Words text={line} />
          </p>
        ))}
      </div>
    );
  return (
    <section>
      <h3 className="label mb-1">{title}</h3>
      <ul className="flex flex-col gap-1">
        {rest.map((line) => (
          <li key={line} className="rowline py-1">
            <Words text={line.replace(/^- /, "")} />
          </li>
        ))}
      </ul>
    </section>
  );
}

const ADDRESS = /\s*\(?(https?:\/\/[^\s)]+)\)?/;

/** A line of the letter; the address in it leads there. */
function Words({ text }: { text: string }) {
  const found = ADDRESS.exec(text);
  const there = found?.[1] && URL.canParse(found[1]) ? new URL(found[1]) : null;
  if (!found || !there) return text;
  return (
    <>
      {text.slice(0, found.index)}{" "}
      <Link to={there.pathname + there.search} className="under hover:text-berry">
        {there.pathname.includes("/posts/") ? "the post" : "here"}
      </Link>
      {text.slice(found.index + found[0].length)}
    </>
  );
}
