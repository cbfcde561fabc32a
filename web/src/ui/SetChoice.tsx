import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export type SetOption = { value: string; label: string; hint?: string };
export type SetGroup = { name: string; options: readonly SetOption[]; chosen: readonly string[] };
type Props = {
  label: string;
  /** What stands where nothing is chosen; choosing it clears. */
  none: string;
  groups: readonly SetGroup[];
  isNot: boolean;
  onToggle: (group: string, value: string) => void;
  onNot: (isNot: boolean) => void;
  onClear: () => void;
  children: ReactNode;
};

const ITEM = "flex cursor-pointer items-baseline gap-2 px-3 py-1 outline-none data-[highlighted]:bg-wash";

/** A part of a sentence that takes several: arrows go through them, letters find one, Enter or Space chooses, Escape closes. */
export function SetChoice({ label, none, groups, isNot, onToggle, onNot, onClear, children }: Props) {
  const isAny = groups.some((group) => group.chosen.length > 0);
  const stay = (event: Event) => event.preventDefault();
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={label}
        className="h-6 font-semibold underline decoration-dashed decoration-rule-strong underline-offset-4 hover:text-berry hover:decoration-berry"
      >
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-50 max-h-[60vh] min-w-52 overflow-y-auto border border-rule-strong bg-panel py-1 text-ink shadow-xl"
        >
          <DropdownMenu.Item onSelect={onClear} className={`${ITEM} ${isAny ? "" : "font-semibold"}`}>
            <span className="w-3 text-berry">{isAny ? "" : "•"}</span>
            {none}
          </DropdownMenu.Item>
          {groups.map((group) => (
            <DropdownMenu.Group key={group.name} aria-label={group.name} className="mt-1 border-t border-rule pt-1">
              {groups.length > 1 && <DropdownMenu.Label className="label px-3">{group.name}</DropdownMenu.Label>}
              {group.options.map((option) => {
                const isOn = group.chosen.includes(option.value);
                return (
                  <DropdownMenu.CheckboxItem
                    key={option.value}
                    checked={isOn}
                    onCheckedChange={() => onToggle(group.name, option.value)}
                    onSelect={stay}
                    textValue={option.label}
                    className={`${ITEM} ${isOn ? "font-semibold" : ""}`}
                  >
                    <span className="w-3 text-berry">{isOn ? (isNot ? "–" : "•") : ""}</span>
                    <span className="flex-1">{option.label}</span>
                    {option.hint && <span className="label font-normal">{option.hint}</span>}
                  </DropdownMenu.CheckboxItem>
                );
              })}
            </DropdownMenu.Group>
          ))}
          {isAny && (
            <DropdownMenu.CheckboxItem
              checked={isNot}
              onCheckedChange={onNot}
              onSelect={stay}
              className={`${ITEM} mt-1 border-t border-rule pt-1.5`}
            >
              <span className="w-3 text-berry">{isNot ? "•" : ""}</span>
              everything but these
            </DropdownMenu.CheckboxItem>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
