import { useCallback, useEffect, useRef, useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { ProblemError } from "../../../api/client";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { useKeepIdea, useSession } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { Field } from "../../../ui/Field";
import { CheckEntry, Form } from "../../../ui/Form";
import { Empty, Notice } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { type Asset, useBringing } from "../../media";
import { IdeaForm } from "./IdeaForm";
import type { IdeaContent } from "./queries";
import { sharedIn } from "./rules";
import { takePictures } from "./shared";

const EMPTY: IdeaContent = { title: "", note: "", group: null, page: "", wishes: [], campaign: null, media: [] };
const keptAs = (brand: string) => `dakika.idea.${brand}`;

function keptFor(brand: string): IdeaContent | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(keptAs(brand)) ?? "null");
    return kept && typeof kept === "object" ? { ...EMPTY, ...kept } : null;
  } catch {
    return null;
  }
}

/** An idea from nothing, or from a page that a browser or a device handed over. What is typed outlives a reload. */
export function NewIdeaPage() {
  const { brand, can } = useBrand();
  const [params] = useSearchParams();
  return can("plan.write") ? (
    <NewIdea key={`${brand.slug} ${params}`} params={params} />
  ) : (
    <Empty title="No idea can be kept here by you">You may look at this brand but not change it.</Empty>
  );
}

function NewIdea({ params }: { params: URLSearchParams }) {
  const { brand } = useBrand();
  const navigate = useNavigate();
  const say = useToast();
  const shared = sharedIn(params);
  const isShared = ["title", "text", "url"].some((name) => params.has(name));
  const [content, setContent] = useState<IdeaContent>(() => ({
    ...EMPTY,
    ...(isShared ? { title: shared.title, note: shared.text, page: shared.page } : keptFor(brand.slug)),
    group: Number(params.get("group")) || null,
  }));
  const form = useForm({ defaultValues: { takesPicture: true } });
  const { takesPicture } = form.watch();
  const keep = useKeepIdea(brand.slug);
  const brands = useSession().data?.brands ?? [];
  const error = keep.error as ProblemError | null;
  const fields = Object.fromEntries(Object.entries(error?.fields ?? {}).map(([name, text]) => [name, String(text)]));
  const change = useCallback((patch: Partial<IdeaContent>) => setContent((old) => ({ ...old, ...patch })), []);
  useEffect(() => sessionStorage.setItem(keptAs(brand.slug), JSON.stringify(content)), [brand.slug, content]);
  const bringing = useBringing(
    useCallback((asset: Asset) => setContent((old) => ({ ...old, media: [...(old.media ?? []), asset.id] })), []),
  );
  const hasTaken = useRef(false);
  const bring = bringing.go;
  useEffect(() => {
    // Once, whatever is drawn again: what was handed over is no longer kept when it was taken up.
    if (hasTaken.current || !params.has("pictures")) return;
    hasTaken.current = true;
    takePictures().then(bring, () => undefined);
  }, [params, bring]);
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] items-center gap-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan/ideas`} className="under hover:text-berry">
          Ideas
        </Link>
        <h1 className="text-[16px]">A new idea</h1>
      </div>
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="A new idea">
        <Form
          form={form}
          error={null}
          className="flex max-w-[620px] flex-col gap-3"
          onSubmit={() => {
            const picture = takesPicture ? shared.picture : "";
            keep.mutate(
              { content, origin: { origin: isShared ? "page" : "own", picture } },
              {
                onSuccess: (idea) => {
                  sessionStorage.removeItem(keptAs(brand.slug));
                  say(idea.problem || "The idea is kept.");
                  navigate(`/${brand.slug}/plan/ideas?idea=${idea.id}`, { replace: true });
                },
              },
            );
          }}
        >
          {params.has("lost") && (
            <Notice kind="wrong">
              What was shared did not come along: the application was not ready in this browser yet. It is now: share it
              once more.
            </Notice>
          )}
          {error && Object.keys(fields).length === 0 && <Notice kind="wrong">{error.message}</Notice>}
          {isShared && brands.length > 1 && (
            <Field label="For">
              {(props) => (
                <select
                  {...props}
                  value={brand.slug}
                  onChange={(event) => {
                    const next = new URLSearchParams(params);
                    next.set("title", content.title ?? "");
                    next.set("text", content.note ?? "");
                    next.set("url", content.page ?? "");
                    navigate(`/${event.target.value}/plan/ideas/new?${next}`, { replace: true });
                  }}
                >
                  {brands.map((one) => (
                    <option key={one.slug} value={one.slug}>
                      {one.name}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          )}
          <IdeaForm content={content} isEditable errors={fields} change={change} />
          {shared.picture && (
            <CheckEntry form={form} name="takesPicture" help={shared.picture}>
              Bring the page’s picture along
            </CheckEntry>
          )}
          {bringing.left > 0 && <p role="status">Bringing {bringing.left === 1 ? "a picture" : "pictures"} …</p>}
          <Button
            type="submit"
            kind="main"
            className="self-start"
            isBusy={keep.isPending || bringing.left > 0}
            disabled={!(content.title ?? "").trim() && !(content.note ?? "").trim()}
          >
            Keep the idea
          </Button>
        </Form>
      </section>
    </>
  );
}
