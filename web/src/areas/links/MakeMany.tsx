import { useState } from "react";
import type { ProblemError } from "../../api/client";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/States";
import { type Draft, useLookAtList, useMakeLinks } from "./queries";

const LARGEST = 300_000;

/** Many links from a pasted list or a file: looked at row by row first, then made as a whole. */
export function MakeMany({ onMade }: { onMade: (count: number) => void }) {
  const { brand, networks } = useBrand();
  const [text, setText] = useState("");
  const [network, setNetwork] = useState("");
  const [tooLarge, setTooLarge] = useState("");
  const look = useLookAtList(brand.slug);
  const make = useMakeLinks(brand.slug);
  const rows = look.data?.rows ?? [];
  const good = rows.filter((row) => !row.error && row.draft).map((row) => row.draft as Draft);
  const problem = (look.error ?? make.error) as ProblemError | null;
  return (
    <div className="flex min-h-0 flex-col gap-3">
      {problem && <Notice kind="wrong">{problem.message}</Notice>}
      {tooLarge && <Notice kind="wrong">{tooLarge} is too large for a list of 500 links. Take a part of it.</Notice>}
      <Field
        label="List or table"
        help="One address a line, or a table with a head: url, name, code, network, campaign, content. Copied from a spreadsheet or a CSV file; up to 500."
      >
        {(props) => (
          <textarea
            {...props}
            rows={6}
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              look.reset();
            }}
            className={`${props.className} !h-auto py-1 font-mono text-[12.5px]`}
          />
        )}
      </Field>
      <div className="flex items-end gap-4">
        <Field label="For network, where a row names none">
          {(props) => (
            <select
              {...props}
              value={network}
              onChange={(e) => {
                setNetwork(e.target.value);
                look.reset();
              }}
            >
              <option value="">none</option>
              {networks.map((n) => (
                <option key={n.key} value={n.key}>
                  {n.name}
                </option>
              ))}
            </select>
          )}
        </Field>
        <label className="under flex h-8 cursor-pointer items-center hover:text-berry">
          Take a file
          <input
            type="file"
            accept=".csv,.tsv,.txt"
            className="sr-only"
            onChange={async (event) => {
              const file = event.target.files?.[0];
              look.reset();
              setTooLarge(file && file.size > LARGEST ? file.name : "");
              if (file && file.size <= LARGEST) setText(await file.text());
            }}
          />
        </label>
        <Button
          isBusy={look.isPending}
          disabled={!text.trim()}
          onClick={() => look.mutate({ text, network, campaign_id: null })}
        >
          Look at it
        </Button>
      </div>
      {look.data && (
        <>
          <p aria-live="polite">
            {plural(good.length, "link")} can be made
            {look.data.problems > 0 && <b className="text-down">, {plural(look.data.problems, "row")} cannot</b>}.
          </p>
          <div className="max-h-[26vh] overflow-y-auto" tabIndex={-1}>
            <table className="w-full table-fixed text-[12.5px]">
              <tbody>
                {rows.map((row) => (
                  <tr key={row.row} className="rowline">
                    <td className="w-8 align-top text-muted">{row.row}</td>
                    <td className="py-0.5 break-all">
                      {row.error ? <span className="text-down">{row.error}</span> : row.target}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <Button
            kind="main"
            className="self-start"
            isBusy={make.isPending}
            disabled={good.length === 0}
            onClick={() => make.mutate(good, { onSuccess: (made) => onMade(made.length) })}
          >
            Make {plural(good.length, "link")}
          </Button>
        </>
      )}
    </div>
  );
}
