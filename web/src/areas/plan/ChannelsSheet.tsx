import { useState } from "react";
import { useForm } from "react-hook-form";
import type { Schemas } from "../../api/client";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { CheckEntry, Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type ChannelRules, useAddChannel, useChannelRules, useChannels } from "./queries";

type Channel = Schemas["Channel"];
const USUAL: Required<ChannelRules> = {
  text_limit: 2000,
  title_limit: 0,
  needs_text: true,
  most_hashtags: null,
  has_links: true,
  most_pictures: 4,
  needs_picture: false,
  takes_videos: false,
  longest_seconds: null,
  takes_documents: false,
  narrowest: null,
  widest: null,
  largest_picture_mb: null,
  largest_video_mb: null,
};
// Shapes as people say them, the tallest first.
const SHAPES: [string, number][] = [
  ["9:16", 9 / 16],
  ["2:3", 2 / 3],
  ["4:5", 4 / 5],
  ["1:1", 1],
  ["5:4", 5 / 4],
  ["3:2", 3 / 2],
  ["16:9", 16 / 9],
  ["2:1", 2],
];

/** Channels that a person publishes to: what each of them takes, and another. */
export function ChannelsSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { brand } = useBrand();
  const channels = useChannels(brand.slug, isOpen);
  const [open, setOpen] = useState<Channel | "new" | null>(null);
  const shown = open ?? (channels.data?.length === 0 ? "new" : null);
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="Channels without a connection">
      <p>
        Posts for them are planned like any other. At the minute you are told, with the text and files ready to take
        along; their results come by file or are typed in.
      </p>
      {channels.isLoading && <Loading what="Looking for channels" />}
      <ul className="mt-2">
        {channels.data?.map((one) => (
          <li key={one.id} className="rowline flex items-baseline gap-2 py-1">
            <span className="min-w-0 flex-1">
              {one.name}
              <span className="label block">{wordsOf(one.rules)}</span>
            </span>
            <button
              type="button"
              aria-label={`Say what ${one.name} takes`}
              className="under h-6 hover:text-berry"
              onClick={() => setOpen(one)}
            >
              what it takes
            </button>
          </li>
        ))}
      </ul>
      {shown === null ? (
        <div className="mt-3">
          <Button onClick={() => setOpen("new")}>Another channel</Button>
        </div>
      ) : (
        <ChannelForm
          key={shown === "new" ? "new" : shown.id}
          channel={shown === "new" ? null : shown}
          onDone={() => setOpen(null)}
        />
      )}
    </Sheet>
  );
}

/** What a channel takes, in one line. */
export function wordsOf(rules: Channel["rules"]): string {
  if (!rules) return "No rules are known: nothing is checked.";
  const pictures = rules.most_pictures ? `up to ${plural(rules.most_pictures, "picture")}` : "no pictures";
  const videos = rules.takes_videos ? `a video${rules.longest_seconds ? ` of ${rules.longest_seconds} s` : ""}` : "";
  return [
    `${rules.text_limit} characters`,
    rules.title_limit ? `a title of ${rules.title_limit}` : "",
    pictures,
    videos,
    shapesOf(rules),
    weightsOf(rules),
    rules.takes_documents ? "a document" : "",
    rules.has_links ? "" : "no addresses",
    rules.most_hashtags != null ? `${rules.most_hashtags} hashtags at most` : "",
  ]
    .filter(Boolean)
    .join(", ");
}

const shapeName = (shape: number) =>
  SHAPES.find(([, value]) => Math.abs(value - shape) < 0.005)?.[0] ?? `${shape.toFixed(2)}:1`;

function shapesOf({ narrowest, widest }: ChannelRules): string {
  if (narrowest == null && widest == null) return "";
  if (narrowest != null && narrowest === widest) return `of ${shapeName(narrowest)}`;
  if (narrowest == null) return `no wider than ${shapeName(widest ?? 0)}`;
  return widest == null ? `no taller than ${shapeName(narrowest)}` : `${shapeName(narrowest)} to ${shapeName(widest)}`;
}

function weightsOf(rules: ChannelRules): string {
  const picture = rules.largest_picture_mb != null ? `pictures to ${rules.largest_picture_mb} MB` : "";
  const video = rules.takes_videos && rules.largest_video_mb != null ? `videos to ${rules.largest_video_mb} MB` : "";
  return [picture, video].filter(Boolean).join(", ");
}

function ChannelForm({ channel, onDone }: { channel: Channel | null; onDone: () => void }) {
  const { brand } = useBrand();
  const add = useAddChannel(brand.slug);
  const change = useChannelRules(brand.slug);
  const say = useToast();
  const form = useForm<{ name: string; isKnown: boolean; rules: Required<ChannelRules> }>({
    defaultValues: { name: "", isKnown: (channel?.rules ?? null) !== null, rules: { ...USUAL, ...channel?.rules } },
  });
  const { name, isKnown, rules } = form.watch();
  const put = (patch: Partial<ChannelRules>) => form.setValue("rules", { ...rules, ...patch });
  const said = isKnown ? rules : null;
  const done = (what: string) => ({
    onSuccess: () => {
      say(what);
      onDone();
    },
  });
  return (
    <Form
      form={form}
      error={add.error ?? change.error}
      className="mt-4 flex flex-col gap-3 border-t border-rule pt-3"
      onSubmit={() => {
        if (channel) change.mutate({ id: channel.id, rules: said }, done(`${channel.name} is checked by its rules.`));
        else add.mutate({ name, rules: said }, done(`${name} can be planned for now.`));
      }}
    >
      {channel ? (
        <h2 className="text-[16px]">What {channel.name} takes</h2>
      ) : (
        <Entry
          form={form}
          name="name"
          label="Its name"
          help="Such as a notice board, a newsletter, a network without a connection"
        >
          {(field) => <input {...field} maxLength={80} />}
        </Entry>
      )}
      <CheckEntry form={form} name="isKnown" help="Posts for it are then checked as they are written.">
        It has rules
      </CheckEntry>
      {isKnown && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <Amount label="Characters of text" value={rules.text_limit} onValue={(n) => put({ text_limit: n ?? 1 })} />
            <Amount
              label="Characters of title"
              help="0: it has no title"
              value={rules.title_limit}
              onValue={(n) => put({ title_limit: n ?? 0 })}
            />
            <Amount
              label="Pictures at most"
              help="0: it takes none"
              value={rules.most_pictures}
              onValue={(n) => put({ most_pictures: n ?? 0 })}
            />
            <Amount
              label="Hashtags at most"
              help="Empty: any number"
              value={rules.most_hashtags}
              onValue={(n) => put({ most_hashtags: n })}
            />
          </div>
          <CheckEntry form={form} name="rules.needs_text">
            A post needs words
          </CheckEntry>
          <CheckEntry form={form} name="rules.needs_picture">
            A post needs a picture
          </CheckEntry>
          <CheckEntry form={form} name="rules.has_links">
            Addresses in the text lead somewhere
          </CheckEntry>
          <CheckEntry form={form} name="rules.takes_documents">
            It takes a document
          </CheckEntry>
          <CheckEntry form={form} name="rules.takes_videos">
            It takes a video
          </CheckEntry>
          {rules.takes_videos && (
            <div className="grid grid-cols-2 gap-3">
              <Amount
                label="Seconds of video at most"
                help="Empty: any length"
                value={rules.longest_seconds}
                onValue={(n) => put({ longest_seconds: n || null })}
              />
              <Weight
                label="Megabytes of a video at most"
                value={rules.largest_video_mb}
                onValue={(n) => put({ largest_video_mb: n })}
              />
            </div>
          )}
          {(rules.most_pictures > 0 || rules.takes_videos) && (
            <div className="grid grid-cols-2 gap-3">
              <Shape
                label="Tallest shape"
                help="Pictures are cut to it around their focus"
                value={rules.narrowest}
                onValue={(narrowest) => put({ narrowest })}
              />
              <Shape label="Widest shape" value={rules.widest} onValue={(widest) => put({ widest })} />
              {rules.most_pictures > 0 && (
                <Weight
                  label="Megabytes of a picture at most"
                  value={rules.largest_picture_mb}
                  onValue={(n) => put({ largest_picture_mb: n })}
                />
              )}
            </div>
          )}
        </>
      )}
      <div className="flex gap-2">
        <Button
          kind="main"
          type="submit"
          disabled={channel === null && !name.trim()}
          isBusy={add.isPending || change.isPending}
        >
          {channel ? "Keep its rules" : "Add it"}
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </Form>
  );
}

type AmountProps = { label: string; help?: string; value: number | null; onValue: (value: number | null) => void };

function Amount({ label, help, value, onValue }: AmountProps) {
  return (
    <Field label={label} help={help}>
      {(props) => (
        <input
          {...props}
          inputMode="numeric"
          maxLength={5}
          value={value ?? ""}
          onChange={(event) => {
            const digits = event.target.value.replace(/\D/g, "");
            onValue(digits ? Number(digits) : null);
          }}
        />
      )}
    </Field>
  );
}

type ShapeProps = { label: string; help?: string; value: number | null; onValue: (value: number | null) => void };

function Shape({ label, help, value, onValue }: ShapeProps) {
  const known = value === null || SHAPES.some(([, shape]) => Math.abs(shape - value) < 0.005);
  return (
    <Field label={label} help={help}>
      {(props) => (
        <select
          {...props}
          value={value === null ? "" : shapeName(value)}
          onChange={(event) => onValue(SHAPES.find(([name]) => name === event.target.value)?.[1] ?? null)}
        >
          <option value="">any</option>
          {!known && <option value={shapeName(value)}>{shapeName(value)}</option>}
          {SHAPES.map(([name]) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      )}
    </Field>
  );
}

/** A weight in megabytes, written with a point or a comma. */
function Weight({
  label,
  value,
  onValue,
}: {
  label: string;
  value: number | null;
  onValue: (n: number | null) => void;
}) {
  const [written, setWritten] = useState(value === null ? "" : String(value));
  return (
    <Field label={label} help="Empty: any weight">
      {(props) => (
        <input
          {...props}
          inputMode="decimal"
          maxLength={8}
          value={written}
          onChange={(event) => {
            const kept = event.target.value.replace(/[^\d.,]/g, "");
            const number = Number(kept.replace(",", "."));
            setWritten(kept);
            onValue(kept && number > 0 ? number : null);
          }}
        />
      )}
    </Field>
  );
}
