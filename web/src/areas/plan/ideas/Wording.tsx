import { useState } from "react";
import { plural } from "../../../lib/format";
import { useSettled } from "../../../lib/useSettled";
import { useBrand } from "../../../study/brand";
import { languageName } from "../../../study/study";
import { Button } from "../../../ui/Button";
import { Field, inputLook } from "../../../ui/Field";
import { Failed, Loading } from "../../../ui/States";
import { type Idea, useWordings } from "./queries";
import { patternWords, subjectOf } from "./rules";

type Props = {
  idea: Pick<Idea, "title" | "page" | "wishes" | "origin">;
  isBusy: boolean;
  onWrite: (text: string) => void;
};

/** A first wording from what did well: each says what it is made of, and is changed before it is taken. */
export function Wording({ idea, isBusy, onWrite }: Props) {
  const { brand } = useBrand();
  const [language, setLanguage] = useState("");
  const [subject, setSubject] = useState(() => subjectOf(idea));
  const settled = useSettled(subject).trim();
  const asked = { subject: settled, page: idea.page, profiles: idea.wishes, language };
  const found = useWordings(brand.slug, settled ? asked : null);
  const [texts, setTexts] = useState<Record<number, string>>({});
  const field = (
    <Field label="Subject" help="In a few words; a wording is made around them.">
      {(props) => (
        <input
          {...props}
          maxLength={300}
          value={subject}
          onChange={(event) => {
            setSubject(event.target.value);
            setTexts({});
          }}
        />
      )}
    </Field>
  );
  if (!settled) return field;
  if (found.error) return <Failed error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data)
    return (
      <>
        {field}
        <Loading what="Looking through your posts" />
      </>
    );
  const { posts, days, characters, languages, wordings } = found.data;
  return (
    <div>
      {field}
      <p className="label mt-2">
        From the openings, last lines and hashtags of {plural(posts, "post")} of yours in {days} days
        {found.data.language && `, in ${languageName(found.data.language)}`}. An ellipsis marks where to write on.
        {characters && ` Your better posts are ${characters[0]} to ${characters[1]} characters long.`}
      </p>
      {languages.length > 1 && (
        <label className="mt-1 flex items-center gap-2">
          <span>In</span>
          <select
            className={`${inputLook} w-auto`}
            value={found.data.language}
            onChange={(event) => {
              setLanguage(event.target.value);
              setTexts({});
            }}
          >
            {languages.map((one) => (
              <option key={one} value={one}>
                {languageName(one)}
              </option>
            ))}
          </select>
        </label>
      )}
      <ul>
        {wordings.map((wording, i) => {
          const text = texts[i] ?? wording.text;
          return (
            <li key={wording.text} className="rowline py-2">
              <textarea
                aria-label={`Wording ${i + 1}`}
                rows={Math.min(9, 1 + text.split("\n").length + Math.floor(text.length / 60))}
                className={`${inputLook} h-auto py-1`}
                value={text}
                onChange={(event) => setTexts({ ...texts, [i]: event.target.value })}
              />
              <ul className="label">
                {wording.patterns.length === 0 && <li>No pattern: there is too little to learn from.</li>}
                {wording.patterns.map((pattern) => (
                  <li
                    key={`${pattern.kind} ${pattern.words}`}
                    className={pattern.verdict === "better" ? "text-up" : ""}
                  >
                    {patternWords(pattern)}
                  </li>
                ))}
              </ul>
              <Button className="mt-1" isBusy={isBusy} onClick={() => onWrite(text)}>
                Write a draft from it
              </Button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
