/** What can be chosen of a kind of figures besides its study, for the form beside it. */

import type { Drawing } from "../../figures/drawing/set";

export type Asked = { name: string; label: string; choices?: [string, string][]; metrics?: "one" | "several" };

const GROUPINGS: [string, string][] = [
  ["format", "format"],
  ["tag", "tag"],
  ["hashtag", "hashtag"],
  ["network", "network"],
  ["campaign", "campaign"],
  ["weekday", "day of the week"],
  ["length", "length"],
];
const pairs = (...values: string[]): [string, string][] => values.map((value) => [value, value]);

export const ASKED: Record<string, Asked[]> = {
  "results.course": [{ name: "metrics", label: "Figures", metrics: "several" }],
  "results.groups": [
    { name: "by", label: "Groups by", choices: GROUPINGS },
    { name: "metric", label: "By which figure", metrics: "one" },
  ],
  "results.difference": [{ name: "metric", label: "Of which figure", metrics: "one" }],
  "results.top": [
    { name: "metric", label: "By which figure", metrics: "one" },
    {
      name: "end",
      label: "From which end",
      choices: [
        ["top", "the best"],
        ["bottom", "the least"],
      ],
    },
    { name: "limit", label: "How many", choices: pairs("6", "3", "4", "8", "12", "24") },
  ],
  "results.findings": [{ name: "limit", label: "How many", choices: pairs("5", "3", "8", "12", "20") }],
  "plan.calendar": [
    {
      name: "ahead",
      label: "Which weeks",
      choices: [
        ["two_weeks", "this week and the next"],
        ["this_week", "this week"],
        ["next_week", "the next week"],
        ["four_weeks", "four weeks from this one"],
      ],
    },
  ],
  "links.spread": [
    { name: "dimension", label: "By", choices: pairs("country", "network", "campaign", "referrer", "device") },
  ],
  "site.funnel": [{ name: "by", label: "By", choices: pairs("network", "campaign", "post") }],
  "site.attribution": [
    { name: "by", label: "By", choices: pairs("channel", "campaign", "post") },
    { name: "of", label: "Given away", choices: pairs("conversions", "value") },
  ],
  "competitors.works": [{ name: "by", label: "By", choices: pairs("format", "topic", "hashtag", "weekday", "length") }],
  "competitors.table": [{ name: "by", label: "Rows", choices: pairs("competitor", "profile") }],
};

/** What one looks for when adding a figure: in the words of the trade, with how it is drawn at first. */
export type Offer = {
  kind: string;
  name: string;
  words: string;
  drawing: Drawing;
  params?: Record<string, string>;
  cells?: string[];
  w: number;
  h: number;
};

export const OFFERS: Offer[] = [
  {
    kind: "results.course",
    name: "Single figures",
    words: "Reach, interactions, rates, clicks, visits: side by side with their change",
    drawing: "tiles",
    params: { metrics: "reach,interactions,er_reach,visits" },
    w: 12,
    h: 2,
  },
  {
    kind: "results.course",
    name: "A course by day",
    words: "A figure over the days, with the comparison",
    drawing: "course",
    params: { metrics: "reach" },
    w: 12,
    h: 4,
  },
  {
    kind: "results.groups",
    name: "Groups of posts",
    words: "By format, tag, hashtag, campaign or weekday: how many times the others, how sure",
    drawing: "bars",
    params: { by: "format" },
    w: 6,
    h: 4,
  },
  {
    kind: "results.top",
    name: "Posts that stand out",
    words: "Single posts with their pictures and figures, the best or the least",
    drawing: "cards",
    params: { metric: "interactions", limit: "6" },
    w: 12,
    h: 4,
  },
  {
    kind: "results.findings",
    name: "Findings",
    words: "What is worth saying about these weeks, and how sure it is",
    drawing: "cards",
    params: { limit: "5" },
    w: 12,
    h: 4,
  },
  {
    kind: "plan.calendar",
    name: "What is planned",
    words: "The coming weeks, day by day",
    drawing: "calendar",
    params: { ahead: "two_weeks" },
    w: 12,
    h: 4,
  },
  {
    kind: "results.difference",
    name: "What made the difference",
    words: "The parts of a change",
    drawing: "steps",
    params: { metric: "interactions" },
    w: 12,
    h: 4,
  },
  {
    kind: "results.posts",
    name: "Totals of posts",
    words: "All posts of the study together",
    drawing: "table",
    w: 4,
    h: 3,
  },
  { kind: "results.audience", name: "Audience", words: "Age, gender, country, language", drawing: "bars", w: 6, h: 6 },
  {
    kind: "links.clicks",
    name: "Clicks by day",
    words: "People’s clicks on short links",
    drawing: "course",
    w: 12,
    h: 4,
  },
  { kind: "links.links", name: "Links", words: "The most clicked", drawing: "table", w: 6, h: 4 },
  {
    kind: "links.spread",
    name: "What clicks came from",
    words: "Country, network, device, referrer",
    drawing: "bars",
    params: { dimension: "country" },
    w: 6,
    h: 4,
  },
  { kind: "links.hours", name: "When people click", words: "Hours of the week", drawing: "grid", w: 12, h: 4 },
  { kind: "site.traffic", name: "Clicks, visits, conversions", words: "By day", drawing: "course", w: 12, h: 4 },
  {
    kind: "site.funnel",
    name: "Funnel",
    words: "Seen, clicked, visited, converted",
    drawing: "table",
    params: { by: "network" },
    w: 12,
    h: 4,
  },
  {
    kind: "site.attribution",
    name: "Attribution",
    words: "Who brought the conversions, by eight models",
    drawing: "table",
    params: { by: "channel" },
    w: 12,
    h: 4,
  },
  {
    kind: "competitors.table",
    name: "Profiles side by side",
    words: "We and the others",
    drawing: "table",
    w: 12,
    h: 4,
  },
  {
    kind: "competitors.table",
    name: "Two axes",
    words: "We and the others on two figures",
    drawing: "axes",
    cells: ["followers", "interactions for 1,000 followers"],
    w: 6,
    h: 4,
  },
  {
    kind: "competitors.band",
    name: "The benchmark",
    words: "The set over time with us in it",
    drawing: "course",
    params: { metric: "interactions_per_1000" },
    w: 12,
    h: 4,
  },
  { kind: "competitors.gap", name: "The gap", words: "On what we are behind or ahead", drawing: "steps", w: 6, h: 4 },
  {
    kind: "competitors.presence",
    name: "Who is where",
    words: "Networks, audience, posts a week",
    drawing: "table",
    w: 12,
    h: 5,
  },
  {
    kind: "competitors.works",
    name: "What works in the field",
    words: "By format, topic or hashtag",
    drawing: "bars",
    params: { by: "format" },
    w: 6,
    h: 4,
  },
  {
    kind: "timing.hours",
    name: "Hours of the week",
    words: "When posts do better than typical",
    drawing: "grid",
    w: 12,
    h: 4,
  },
  {
    kind: "results.growth",
    name: "A post as it grew",
    words: "The newest, or one put in from its page",
    drawing: "table",
    w: 12,
    h: 4,
  },
  {
    kind: "links.life",
    name: "A link over its life",
    words: "The most clicked, or one put in from its page",
    drawing: "course",
    w: 12,
    h: 4,
  },
  {
    kind: "plan.campaign",
    name: "A campaign’s plan",
    words: "What is planned and out, by kind and network",
    drawing: "table",
    w: 6,
    h: 4,
  },
  {
    kind: "plan.boosts",
    name: "Boosts",
    words: "What each cost, and a click and a conversion of it",
    drawing: "table",
    w: 12,
    h: 4,
  },
  {
    kind: "foresight.calibration",
    name: "Were we right?",
    words: "What was said, held against what came",
    drawing: "table",
    w: 12,
    h: 4,
  },
  {
    kind: "timing.held",
    name: "Does it hold?",
    words: "Hours learnt on older weeks, tried on newer ones",
    drawing: "table",
    w: 12,
    h: 3,
  },
  {
    kind: "timing.trials",
    name: "Trials of two times",
    words: "What each says by now, and how sure",
    drawing: "table",
    w: 12,
    h: 3,
  },
  {
    kind: "competitors.best",
    name: "Their best posts",
    words: "The furthest above their own usual",
    drawing: "cards",
    params: { limit: "6" },
    w: 12,
    h: 4,
  },
  {
    kind: "competitors.followers",
    name: "A profile’s followers",
    words: "A competitor’s, or those of a profile put in from its page",
    drawing: "course",
    w: 12,
    h: 4,
  },
  {
    kind: "foresight.under_way",
    name: "Posts under way",
    words: "Where the posts of these days are heading",
    drawing: "table",
    w: 12,
    h: 4,
  },
  {
    kind: "plan.hashtag",
    name: "A hashtag over time",
    words: "Month by month, ours and the field",
    drawing: "course",
    w: 12,
    h: 4,
  },
  { kind: "text", name: "Text", words: "Your own words", drawing: "table", w: 6, h: 2 },
  { kind: "picture", name: "Picture", words: "From the library", drawing: "table", w: 4, h: 3 },
];

export const SPANS: [string, string][] = [
  ["last_7", "the last 7 days"],
  ["last_14", "the last 14 days"],
  ["last_28", "the last 28 days"],
  ["last_90", "the last 90 days"],
  ["last_week", "the week before this one"],
  ["this_month", "this month"],
  ["last_month", "the month before this one"],
  ["last_quarter", "the quarter before this one"],
  ["this_year", "this year"],
];

export const DRAWINGS: Record<Drawing, string> = {
  tiles: "single figures",
  course: "a course",
  bars: "bars",
  table: "a table",
  grid: "hours of the week",
  axes: "two axes",
  cards: "cards with pictures",
  steps: "steps that add up",
  calendar: "weeks",
};
