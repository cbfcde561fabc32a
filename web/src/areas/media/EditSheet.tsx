import { RotateCw } from "lucide-react";
import { type PointerEvent, useRef, useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Field, inputLook } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toast";
import { type Asset, contentOf, type Edits, useChangeAsset, useEditAsset, useStill } from "./queries";
import { boxAround } from "./rules";

const SHAPES = [
  { name: "as it is", shape: null },
  { name: "1:1", shape: 1 },
  { name: "4:5", shape: 0.8 },
  { name: "2:3", shape: 2 / 3 },
  { name: "9:16", shape: 9 / 16 },
  { name: "16:9", shape: 16 / 9 },
  { name: "1.91:1", shape: 1.91 },
] as const;
const INKS = [
  { name: "light on dark", colour: "#fffaf2", ground: "#1c1714" },
  { name: "dark on light", colour: "#1c1714", ground: "#fffaf2" },
  { name: "light on berry", colour: "#fffaf2", ground: "#8a1c4a" },
] as const;

type Props = { asset: Asset | null; onClose: () => void; onMade?: (asset: Asset) => void };

/** What is to be seen on a file, what must stay when it is cut, and working on a picture: another file comes of it. */
export function EditSheet({ asset, onClose, onMade }: Props) {
  return (
    <Sheet isOpen={asset !== null} onClose={onClose} title={asset?.name ?? "A file"}>
      {asset && <Edit key={asset.id} asset={asset} onClose={onClose} onMade={onMade} />}
    </Sheet>
  );
}

function Edit({ asset, onClose, onMade }: { asset: Asset; onClose: () => void; onMade?: (asset: Asset) => void }) {
  const { brand, can } = useBrand();
  const canChange = can("media.change");
  const say = useToast();
  const change = useChangeAsset(brand.slug, asset.id);
  const edit = useEditAsset(brand.slug, asset.id);
  const [words, setWords] = useState(asset.words);
  const [tags, setTags] = useState(asset.tags.join(", "));
  const [name, setName] = useState(asset.name);
  const [focus, setFocus] = useState({ x: asset.focus_x, y: asset.focus_y });
  const [turn, setTurn] = useState<0 | 90 | 180 | 270>(0);
  const [shape, setShape] = useState<number | null>(null);
  const [looks, setLooks] = useState({ light: 1, contrast: 1, saturation: 1, blur: 0 });
  const [written, setWritten] = useState("");
  const [ink, setInk] = useState(0);
  const [place, setPlace] = useState(0.85);
  const isPicture = asset.kind === "picture";
  const [wide, high] = turn % 180 ? [asset.height ?? 1, asset.width ?? 1] : [asset.width ?? 1, asset.height ?? 1];
  const point = turned(focus, turn);
  const box = shape ? boxAround(wide, high, shape, point.x, point.y) : null;
  const isTouched =
    turn !== 0 ||
    box !== null ||
    written.trim() !== "" ||
    Object.entries(looks).some(([k, v]) => v !== (k === "blur" ? 0 : 1));
  const keep = () =>
    change.mutate(
      {
        name,
        words,
        tags: tags
          .split(",")
          .map((tag) => tag.trim())
          .filter(Boolean),
        focus_x: focus.x,
        focus_y: focus.y,
      },
      {
        onSuccess: () => {
          say("Kept.");
          onClose();
        },
      },
    );
  const make = () => {
    const { colour, ground } = INKS[ink] ?? INKS[0];
    const asked: Edits = {
      turn,
      ...looks,
      crop: box,
      words: written.trim() ? [{ text: written.trim(), x: 0.5, y: place, size: 0.08, colour, ground }] : [],
    };
    edit.mutate(asked, {
      onSuccess: (made) => {
        say("Another file is being made of it; the first stays as it is.");
        onMade?.(made);
        onClose();
      },
    });
  };
  return (
    <div className="flex flex-col gap-3">
      {isPicture && asset.state === "ready" && (
        <Focus
          source={contentOf(brand.slug, asset.id, "full")}
          alt={asset.words || asset.name}
          turn={turn}
          ratio={wide / high}
          point={point}
          box={box}
          filter={`brightness(${looks.light}) contrast(${looks.contrast}) saturate(${looks.saturation}) blur(${looks.blur / 4}px)`}
          written={written}
          ink={INKS[ink] ?? INKS[0]}
          place={place}
          onPoint={canChange ? (next) => setFocus(turned(next, (360 - turn) as 0)) : undefined}
        />
      )}
      {asset.message && <p className="text-muted">{asset.message}</p>}
      {asset.origin && <p className="text-muted">From elsewhere: {asset.origin}</p>}
      {asset.kind === "video" && asset.state === "ready" && (
        <Film asset={asset} canChange={canChange} onMade={onMade} />
      )}
      <fieldset disabled={!canChange} className="flex flex-col gap-3">
        <Field label="Alternative text" help="What is to be seen, for those who do not see it; sent with the post">
          {(props) => (
            <textarea
              {...props}
              rows={2}
              maxLength={1000}
              className={`${inputLook} h-auto py-1`}
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
          )}
        </Field>
        <div className="grid grid-cols-2 gap-2">
          <Field label="Name">
            {(props) => (
              <input {...props} maxLength={200} value={name} onChange={(event) => setName(event.target.value)} />
            )}
          </Field>
          <Field label="Tags" help="Between commas">
            {(props) => <input {...props} value={tags} onChange={(event) => setTags(event.target.value)} />}
          </Field>
        </div>
        {canChange && (
          <div>
            <Button kind="main" isBusy={change.isPending} onClick={keep}>
              Keep
            </Button>
          </div>
        )}
      </fieldset>
      {change.error && (
        <p role="alert" className="text-down">
          {change.error.message}
        </p>
      )}
      {isPicture && canChange && asset.state === "ready" && (
        <section aria-labelledby="work-title" className="border-t border-rule pt-3">
          <h3 id="work-title" className="text-[15px]">
            Work on it
          </h3>
          <div className="mt-1 flex flex-wrap gap-1">
            {SHAPES.map((one) => (
              <button
                key={one.name}
                type="button"
                aria-pressed={shape === one.shape}
                onClick={() => setShape(one.shape)}
                className="h-7 border border-rule-strong px-2 aria-pressed:border-berry aria-pressed:text-berry"
              >
                {one.name}
              </button>
            ))}
            <button
              type="button"
              onClick={() => setTurn(((turn + 90) % 360) as 0)}
              className="inline-flex h-7 items-center gap-1 border border-rule-strong px-2"
            >
              <RotateCw size={13} aria-hidden="true" /> turn
            </button>
          </div>
          <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-1">
            <Slide
              label="Light"
              low={0.5}
              high={1.6}
              value={looks.light}
              onValue={(light) => setLooks({ ...looks, light })}
            />
            <Slide
              label="Contrast"
              low={0.5}
              high={1.6}
              value={looks.contrast}
              onValue={(contrast) => setLooks({ ...looks, contrast })}
            />
            <Slide
              label="Saturation"
              low={0}
              high={2}
              value={looks.saturation}
              onValue={(saturation) => setLooks({ ...looks, saturation })}
            />
            <Slide label="Blur" low={0} high={20} value={looks.blur} onValue={(blur) => setLooks({ ...looks, blur })} />
          </div>
          <div className="mt-2">
            <Field label="Words on it">
              {(props) => (
                <input
                  {...props}
                  maxLength={200}
                  value={written}
                  onChange={(event) => setWritten(event.target.value)}
                />
              )}
            </Field>
            {written.trim() && (
              <div className="mt-1 flex flex-wrap items-center gap-2">
                <select
                  aria-label="Colours of the words"
                  className="h-7 border border-rule-strong bg-panel"
                  value={ink}
                  onChange={(event) => setInk(Number(event.target.value))}
                >
                  {INKS.map((one, i) => (
                    <option key={one.name} value={i}>
                      {one.name}
                    </option>
                  ))}
                </select>
                <select
                  aria-label="Where the words stand"
                  className="h-7 border border-rule-strong bg-panel"
                  value={place}
                  onChange={(event) => setPlace(Number(event.target.value))}
                >
                  <option value={0.15}>above</option>
                  <option value={0.5}>in the middle</option>
                  <option value={0.85}>below</option>
                </select>
              </div>
            )}
          </div>
          <div className="mt-3 flex items-center gap-2">
            <Button disabled={!isTouched} isBusy={edit.isPending} onClick={make}>
              Make another file of it
            </Button>
            <span className="label">The first one stays as it is.</span>
          </div>
          {edit.error && (
            <p role="alert" className="mt-1 text-down">
              {edit.error.message}
            </p>
          )}
        </section>
      )}
    </div>
  );
}

/** A video to be looked at, and a picture of the moment it stands at, such as for its cover. */
function Film({ asset, canChange, onMade }: { asset: Asset; canChange: boolean; onMade?: (asset: Asset) => void }) {
  const { brand } = useBrand();
  const film = useRef<HTMLVideoElement>(null);
  const still = useStill(brand.slug, asset.id);
  const say = useToast();
  return (
    <div>
      {/* biome-ignore lint/a11y/useMediaCaption: it is the person's own file, without captions of ours */}
      <video
        ref={film}
        controls
        preload="metadata"
        src={contentOf(brand.slug, asset.id, "original")}
        className="max-h-[280px] w-full bg-wash"
      />
      {canChange && (
        <Button
          className="mt-2"
          isBusy={still.isPending}
          onClick={() =>
            still.mutate(film.current?.currentTime ?? 0, {
              onSuccess: (made) => {
                say("A picture of this moment is being made.");
                onMade?.(made);
              },
            })
          }
        >
          A picture of this moment
        </Button>
      )}
      {still.error && (
        <p role="alert" className="text-down">
          {still.error.message}
        </p>
      )}
    </div>
  );
}

type Point = { x: number; y: number };

/** A point of a picture after the picture was turned clockwise. */
function turned({ x, y }: Point, turn: number): Point {
  if (turn % 360 === 90) return { x: 1 - y, y: x };
  if (turn % 360 === 180) return { x: 1 - x, y: 1 - y };
  return turn % 360 === 270 ? { x: y, y: 1 - x } : { x, y };
}

type FocusProps = {
  source: string;
  alt: string;
  turn: number;
  ratio: number;
  point: Point;
  box: { left: number; top: number; width: number; height: number } | null;
  filter: string;
  written: string;
  ink: { colour: string; ground: string };
  place: number;
  onPoint?: (point: Point) => void;
};

const HIGHEST = 300;

/** The picture with the point that must stay; a click or the arrow keys move it. What is cut off is paled. */
function Focus({ source, alt, turn, ratio, point, box, filter, written, ink, place, onPoint }: FocusProps) {
  const frame = useRef<HTMLDivElement>(null);
  const put = (event: PointerEvent) => {
    const area = frame.current?.getBoundingClientRect();
    if (!area || !onPoint || event.buttons === 0) return;
    onPoint({ x: share(event.clientX - area.left, area.width), y: share(event.clientY - area.top, area.height) });
  };
  const width = Math.min(370, HIGHEST * ratio);
  const isOnSide = turn % 180 !== 0;
  return (
    <div>
      <div
        ref={frame}
        className="relative mx-auto touch-none overflow-hidden bg-wash"
        style={{ width, aspectRatio: String(ratio) }}
        onPointerDown={put}
        onPointerMove={put}
      >
        <img
          src={source}
          alt={alt}
          draggable={false}
          className="absolute top-1/2 left-1/2 max-w-none"
          style={{
            width: isOnSide ? `${100 / ratio}%` : "100%",
            transform: `translate(-50%, -50%) rotate(${turn}deg)`,
            filter,
          }}
        />
        {written.trim() && (
          <span
            className="absolute left-1/2 max-w-[90%] -translate-x-1/2 -translate-y-1/2 px-2 py-0.5 text-center font-semibold"
            style={{ top: `${place * 100}%`, color: ink.colour, background: ink.ground }}
          >
            {written}
          </span>
        )}
        {box && (
          <span
            className="pointer-events-none absolute outline-2 outline-berry"
            style={{
              left: `${box.left * 100}%`,
              top: `${box.top * 100}%`,
              width: `${box.width * 100}%`,
              height: `${box.height * 100}%`,
              boxShadow: "0 0 0 2000px color-mix(in srgb, var(--paper) 70%, transparent)",
            }}
          />
        )}
        <button
          type="button"
          disabled={!onPoint}
          aria-label={`What must stay: ${Math.round(point.x * 100)} % from the left, ${Math.round(point.y * 100)} % from the top`}
          className="absolute h-6 w-6 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-berry bg-paper/60"
          style={{ left: `${point.x * 100}%`, top: `${point.y * 100}%` }}
          onKeyDown={(event) => {
            const step = { ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0], ArrowUp: [0, -0.05], ArrowDown: [0, 0.05] }[
              event.key
            ];
            if (!step || !onPoint) return;
            event.preventDefault();
            onPoint({ x: share(point.x + (step[0] ?? 0), 1), y: share(point.y + (step[1] ?? 0), 1) });
          }}
        />
      </div>
      {onPoint && <p className="label mt-1 text-center">Click on what must stay when a network cuts it.</p>}
    </div>
  );
}

const share = (value: number, of: number) => Math.min(1, Math.max(0, Math.round((value / of) * 100) / 100));

type SlideProps = { label: string; low: number; high: number; value: number; onValue: (value: number) => void };

function Slide({ label, low, high, value, onValue }: SlideProps) {
  return (
    <label className="flex items-center gap-2">
      <span className="w-[68px]">{label}</span>
      <input
        type="range"
        min={low}
        max={high}
        step={(high - low) / 40}
        value={value}
        onChange={(event) => onValue(Number(event.target.value))}
        className="min-w-0 flex-1 accent-(--berry)"
      />
    </label>
  );
}
