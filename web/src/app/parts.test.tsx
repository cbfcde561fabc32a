// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Part, partsAt } from "../study/areas";
import { sample, screen, screenAt, waitFor } from "../testing";
import { AREAS } from "./areas";

const ANSWERS = {
  "GET /sources": sample("Sources", { profiles: [{ id: 7, name: "Orrery House", network: "brevi", kind: "own" }] }),
  "GET /line": sample("Line", { languages: ["en", "pt"] }),
  "GET /results/tags": [sample("Tag", { id: 3, name: "gears" })],
  "GET /campaigns": [sample("Campaign", { id: 2, name: "Night Openings" })],
  "GET /results/summary": sample("Summary"),
  "GET /results/decomposition": sample("Decomposition", { reason: "none" }),
  "GET /results/spikes": sample("Spikes"),
  "GET /results/posts": sample("PostsPage"),
  "GET /results/posts/top": sample("TopPosts"),
  "GET /results/posts/totals": sample("Totals"),
  "GET /results/groups": sample("Groups"),
  "GET /results/audience": sample("Audience"),
  "GET /results/metrics": sample("Catalogue"),
  "GET /results/footing": sample("Footing"),
  "GET /site/traffic": sample("Traffic"),
  "GET /site/funnel": sample("Funnels"),
  "GET /site/attribution": sample("Attribution"),
  "GET /site/conversions": sample("ConversionList"),
  "GET /site/sites": sample("Sites"),
  "GET /links": sample("Links"),
  "GET /plan/boosts": { boosts: [], next: null, limit: sample("BoostLimit") },
  "GET /competitors": sample("PeerTable"),
  "GET /competitors/benchmark": sample("Benchmark"),
  "GET /competitors/axes": sample("Axes"),
  "GET /competitors/posts": sample("BestPosts"),
  "GET /competitors/presence": sample("Presence"),
  "GET /competitors/works": sample("Works"),
  "GET /competitors/gap": sample("Gap"),
};
/** Each part of the sentence: as it stands in an address, what it is called on the server, and how it reads. */
const PARTS: { part: Part[]; name: string; value: string; words: RegExp }[] = [
  { part: ["profile"], name: "profile", value: "7", words: /Orrery House on Brevi/ },
  { part: ["profile", "network"], name: "network", value: "brevi", words: /all on Brevi|Brevi/ },
  { part: ["format"], name: "format", value: "image", words: /image/ },
  { part: ["narrow"], name: "tag", value: "3", words: /gears/ },
  { part: ["narrow", "campaign"], name: "campaign", value: "2", words: /Night Openings/ },
  { part: ["narrow"], name: "language", value: "pt", words: /Portuguese/ },
  { part: ["narrow"], name: "boosted", value: "yes", words: /boosted/ },
  { part: ["age"], name: "age", value: "24", words: /at 24 hours/ },
  { part: ["against"], name: "compare", value: "year_before", words: /a year before/ },
];
const OF_A_VIEW = /^GET \/(results|links|site|competitors)/;
/** What the whole shell asks with the study, or what is no figure of it. */
const OF_NO_VIEW = /\/(tags|findings|preferences)$/;
const views = AREAS.flatMap((area) => (area.views ?? []).map((view) => `${area.path}${view.path && `/${view.path}`}`))
  // Pages of links look at a period and show no figure of a study.
  .filter((path) => path !== "links/pages" && partsAt(AREAS, `/brand/${path}`) !== null);

describe("every view by every part of the sentence", () => {
  it.each(views.flatMap((path) => PARTS.map((part) => [path, part.name, part] as const)))(
    "promises that %s narrows by its %s and says so, or does neither",
    async (path, _, { part, name, value }) => {
      const { server } = screenAt(`${path}?${name}=${value}`, ANSWERS);
      await screen.findAllByRole("navigation");
      const own = () =>
        server.asked.filter(
          (a) => OF_A_VIEW.test(`${a.method} ${a.path}`) && !OF_NO_VIEW.test(a.path) && a.query.has("first"),
        );
      await waitFor(() => expect(own().length).toBeGreaterThan(0));
      const has = partsAt(AREAS, `/brand/${path}`) ?? [];
      const isSaid = part.some((one) => has.includes(one));
      for (const asked of own()) {
        // The footing is what tells which age there is.
        if (name === "age" && asked.path.endsWith("/footing")) continue;
        const told = asked.query.get(name);
        if (isSaid) expect([asked.path, told]).toEqual([asked.path, value]);
        else expect([asked.path, told]).not.toEqual([asked.path, value]);
      }
    },
  );

  it.each(PARTS.map((p) => [p.name, p] as const))(
    "promises that the sentence says its %s",
    async (_, { name, value, words }) => {
      screenAt(`results?${name}=${value}`, ANSWERS);
      await waitFor(async () => expect((await screen.findByText(/^Studying/)).textContent).toMatch(words));
    },
  );
});
