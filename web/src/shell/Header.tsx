import { Menu, Search } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useState } from "react";
import { Link, NavLink, useLocation, useNavigate } from "react-router";
import { since } from "../lib/format";
import { useNamedAreas } from "../study/areas";
import { useBrand } from "../study/brand";
import { useChangeAccount, useLine, useSession, useSignOut } from "../study/queries";
import { carried } from "../study/study";
import { Bell } from "./Bell";
import { chooseTheme, chosenTheme, type Theme } from "./theme";

const item = "block w-full cursor-pointer px-3 py-1.5 text-left outline-none data-[highlighted]:bg-wash";
const menu = "z-50 min-w-48 border border-rule-strong bg-panel py-1 text-ink shadow-xl";

export function Header({ onPalette }: { onPalette: () => void }) {
  const { brand, now, can } = useBrand();
  const canChange = can("brand.change");
  const { search, pathname } = useLocation();
  const areas = useNamedAreas();
  const area = areas.find((one) => one.path === pathname.split("/")[2]);
  const navigate = useNavigate();
  const session = useSession();
  const signOut = useSignOut();
  const line = useLine(brand.slug);
  const change = useChangeAccount();
  const [theme, setTheme] = useState<Theme>(chosenTheme());
  // The choice goes with the person, from browser to browser.
  const kept = session.data?.theme;
  useEffect(() => {
    if (!kept) return;
    setTheme(kept);
    chooseTheme(kept);
  }, [kept]);
  const initials = (session.data?.name ?? "")
    .split(" ")
    .map((word) => word[0])
    .join("")
    .slice(0, 2);
  return (
    <header className="print:hidden flex h-[42px] items-center gap-5 bg-shell px-5 text-shell-ink narrow:gap-2 narrow:px-3">
      <Link
        to={`/${brand.slug}/results`}
        className="flex items-center gap-2 font-semibold"
        aria-label="Dakika, to Results"
      >
        <svg width="24" height="20" viewBox="0 0 24 20" aria-hidden="true">
          <path
            d="M1 18h22M4 18v-5M8.5 18V8.5M17.5 18v-4M21.5 18V7"
            stroke="currentColor"
            strokeWidth="1.5"
            fill="none"
          />
          <path d="M13 18V3" stroke="#f083ab" strokeWidth="2.6" />
        </svg>
        <span className="text-[15.5px] narrow:sr-only">Dakika</span>
      </Link>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          className="flex h-8 min-w-0 items-center gap-1.5 border-r border-white/15 pr-5 text-[13.5px] text-shell-muted hover:text-shell-ink narrow:pr-2"
          aria-label={`Brand: ${brand.name}`}
        >
          {brand.picture && <img src={brand.picture} alt="" width="18" height="18" className="h-[18px] w-[18px]" />}
          <span className="truncate">{brand.name}</span>
          <svg width="8" height="6" viewBox="0 0 8 6" aria-hidden="true">
            <path d="M1 1l3 3.5L7 1" stroke="currentColor" fill="none" />
          </svg>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="start" sideOffset={6} className={menu}>
            {(session.data?.brands.length ?? 0) > 1 && (
              <DropdownMenu.Item
                className={`${item} border-b border-rule`}
                onSelect={() => navigate(`/${brand.slug}/brands`)}
              >
                All brands
              </DropdownMenu.Item>
            )}
            {session.data?.brands.map((other) => (
              <DropdownMenu.Item key={other.slug} className={item} onSelect={() => navigate(`/${other.slug}/results`)}>
                <span className={other.slug === brand.slug ? "font-semibold" : ""}>{other.name}</span>
                {other.role === "viewer" && <span className="label ml-2">may look</span>}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Item
              className={`${item} border-t border-rule`}
              onSelect={() => navigate(`/${brand.slug}/sources/brand`)}
            >
              Settings of {brand.name}
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => navigate(`/${brand.slug}/team`)}>
              Who works for {brand.name}
            </DropdownMenu.Item>
            {canChange && (
              <DropdownMenu.Item className={item} onSelect={() => navigate(`/${brand.slug}/sources/brand/new`)}>
                A new brand
              </DropdownMenu.Item>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`Area: ${area?.name ?? "none"}`}
          className="hidden h-8 items-center gap-1.5 px-1 text-[14px] font-semibold narrow:flex"
        >
          {area?.name ?? "Areas"}
          <Menu size={15} aria-hidden="true" />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="start" sideOffset={6} className={menu}>
            {areas.map((other) => (
              <DropdownMenu.Item
                key={other.path}
                className={`${item} ${other === area ? "font-semibold text-berry" : ""}`}
                onSelect={() => navigate(`/${brand.slug}/${other.path}${carried(search)}`)}
              >
                {other.name}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <nav aria-label="Areas" className="flex h-full items-stretch gap-1 text-[14px] narrow:hidden">
        {areas.map((area) => (
          <NavLink
            key={area.path}
            to={`/${brand.slug}/${area.path}${carried(search)}`}
            className={({ isActive }) =>
              `flex items-center border-b-[3px] px-2.5 pt-[3px] ${isActive ? "border-shell-ink font-semibold" : "border-transparent text-shell-muted hover:text-shell-ink"}`
            }
          >
            {area.name}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex shrink-0 items-center gap-4 text-[13px] text-shell-muted">
        <button type="button" onClick={onPalette} className="flex h-7 items-center gap-2 hover:text-shell-ink">
          <Search size={15} aria-hidden="true" className="hidden narrow:block" />
          <span className="narrow:sr-only">Go to or find</span>
          <kbd className="border border-white/25 px-1 font-sans text-[11.5px] narrow:hidden">Ctrl K</kbd>
        </button>
        <span title={line.data?.as_of ?? undefined} className="hidden whitespace-nowrap min-[1120px]:inline">
          {line.data?.as_of ? `Data as of ${since(line.data.as_of, now)}` : line.data ? "No data yet" : ""}
        </span>
        <Bell />
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger
            aria-label={`You: ${session.data?.name ?? ""}`}
            className="flex h-7 w-7 items-center justify-center rounded-full border border-white/30 text-[12px] font-semibold text-shell-ink"
          >
            {initials || "?"}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={6} className={menu}>
              <div className="px-3 py-1.5">
                <div className="font-semibold">{session.data?.name}</div>
                <div className="label">{session.data?.email}</div>
              </div>
              <DropdownMenu.Item
                className={`${item} border-y border-rule`}
                onSelect={() => navigate(`/${brand.slug}/team/you`)}
              >
                You: password, devices, choices
              </DropdownMenu.Item>
              <DropdownMenu.RadioGroup
                value={theme}
                onValueChange={(value) => {
                  setTheme(value as Theme);
                  chooseTheme(value as Theme);
                  const { data } = session;
                  if (data)
                    change.mutate({
                      name: data.name,
                      language: data.language,
                      time_zone: data.time_zone,
                      theme: value as Theme,
                    });
                }}
              >
                {(["system", "light", "dark"] as const).map((name) => (
                  <DropdownMenu.RadioItem
                    key={name}
                    value={name}
                    className={`${item} data-[state=checked]:font-semibold`}
                  >
                    {{ system: "Light or dark as the system", light: "Light", dark: "Dark" }[name]}
                  </DropdownMenu.RadioItem>
                ))}
              </DropdownMenu.RadioGroup>
              <DropdownMenu.Item className={`${item} border-t border-rule`} onSelect={() => signOut.mutate()}>
                Sign out
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
    </header>
  );
}
