import { useEffect, useRef } from "react";
import { SetChoice, type SetOption } from "../ui/SetChoice";
import { type Chosen, listed, readChosen, toggled, writeChosen } from "./chosen";
import { useStudy } from "./study";

type Props = {
  field: "network" | "format" | "tag" | "campaign" | "language";
  label: string;
  none: string;
  options: readonly SetOption[];
  before?: string;
};

/** One thing that is asked of posts: any of some, or everything but them. */
export function StudySet({ field, label, none, options, before = "" }: Props) {
  const { study, change } = useStudy();
  const written = study[field];
  const chosen = readChosen(written);
  // Two choices in a row are made of each other, also where the address has not followed yet.
  const latest = useRef(written);
  useEffect(() => {
    latest.current = written;
  }, [written]);
  const choose = (next: (from: Chosen) => Chosen) => {
    latest.current = writeChosen(next(readChosen(latest.current)));
    change({ [field]: latest.current });
  };
  const names = chosen.values.map((v) => options.find((o) => o.value === v)?.label ?? "something unknown");
  const lower = field === "format" ? names.map((name) => name.toLowerCase()) : names;
  return (
    <>
      {chosen.values.length > 0 && `${chosen.isNot ? "not " : ""}${before}`}
      <SetChoice
        label={label}
        none={none}
        groups={[{ name: label, options, chosen: chosen.values }]}
        isNot={chosen.isNot}
        onToggle={(_, value) => choose((from) => toggled(from, value))}
        onNot={(isNot) => choose((from) => ({ ...from, isNot }))}
        onClear={() => change({ [field]: undefined })}
      >
        {chosen.values.length > 0 ? listed(lower) : none}
      </SetChoice>
    </>
  );
}
