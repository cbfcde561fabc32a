/** Listening to what changed: one stream for all tabs of a browser, and everything made of it is asked again. */

import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { isMadeOf, type Thing } from "../api/keys";
import { setLive } from "../api/live";
import { askTicket } from "./queries";

export type Heard =
  | { kind: "changed"; brand: string; things: Thing[] }
  | { kind: "anew" }
  | { kind: "live"; on: boolean }
  | { kind: "who" };

const LOCK = "dakika.events";
const FIRST_MS = 2_000;
const LONGEST_MS = 60_000;
/** Changes of a moment are answered by one round of questions. */
const GATHER_MS = 600;

/** Ask again for what is made of what changed; a tab that nobody looks at asks when somebody does. */
export function gathering(client: QueryClient, isHidden = () => document.hidden): (heard: Heard) => void {
  const changed = new Map<string, Set<Thing>>();
  let isWaiting = false;
  const ask = () => {
    isWaiting = false;
    const told = [...changed];
    changed.clear();
    client.invalidateQueries({
      predicate: ({ queryKey }) => told.some(([brand, things]) => isMadeOf(queryKey, brand, [...things])),
      refetchType: isHidden() ? "none" : "active",
    });
  };
  return (heard) => {
    if (heard.kind === "live") {
      setLive(heard.on);
      return;
    }
    if (heard.kind === "anew") client.invalidateQueries({ refetchType: isHidden() ? "none" : "active" });
    if (heard.kind !== "changed") return;
    const things = changed.get(heard.brand) ?? new Set();
    for (const thing of heard.things) things.add(thing);
    changed.set(heard.brand, things);
    if (!isWaiting) {
      isWaiting = true;
      setTimeout(ask, GATHER_MS);
    }
  };
}

type Ticket = { address: string; ticket: string };

/** Keep a stream open until told to stop: each time with a new ticket, and ever longer apart where none is to be had. */
export async function streaming(
  tell: (heard: Heard) => void,
  signal: AbortSignal,
  open: (ticket: Ticket, tell: (heard: Heard) => void, signal: AbortSignal) => Promise<boolean>,
  ticketed: () => Promise<Ticket>,
): Promise<void> {
  let pause = FIRST_MS;
  let isFirst = true;
  while (!signal.aborted) {
    const ticket = await ticketed().catch(() => null);
    if (ticket?.address === "") return;
    const wasOpen = ticket !== null && (await open(ticket, isFirst ? tell : andAnew(tell), signal));
    if (wasOpen) {
      pause = FIRST_MS;
      isFirst = false;
    } else {
      tell({ kind: "live", on: false });
      await later(pause, signal);
      pause = Math.min(2 * pause, LONGEST_MS);
    }
  }
}

/** What happened between two streams nobody heard: once it is live again everything is asked. */
function andAnew(tell: (heard: Heard) => void): (heard: Heard) => void {
  return (heard) => {
    tell(heard);
    if (heard.kind === "live" && heard.on) tell({ kind: "anew" });
  };
}

function later(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((done) => {
    const timer = setTimeout(done, ms);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      done();
    });
  });
}

/** One stream, until it ends; whether it ended as it should. */
function opened(ticket: Ticket, tell: (heard: Heard) => void, signal: AbortSignal): Promise<boolean> {
  return new Promise((done) => {
    const source = new EventSource(`${ticket.address}/events?ticket=${encodeURIComponent(ticket.ticket)}`);
    const end = (isOver: boolean) => {
      source.close();
      done(isOver);
    };
    const data = (event: Event) => JSON.parse((event as MessageEvent<string>).data);
    source.addEventListener("hello", () => tell({ kind: "live", on: true }));
    source.addEventListener("changed", (event) => tell({ kind: "changed", ...data(event) }));
    source.addEventListener("anew", () => tell({ kind: "anew" }));
    source.addEventListener("over", () => end(true));
    source.addEventListener("error", () => end(false));
    signal.addEventListener("abort", () => end(true));
  });
}

/** Listen for as long as the shell stands: the tab that holds the lock has the stream, and tells the others. */
export function useListening(): void {
  const client = useQueryClient();
  useEffect(() => {
    if (typeof EventSource === "undefined" || typeof BroadcastChannel === "undefined") return;
    const stop = new AbortController();
    const hear = gathering(client);
    const channel = new BroadcastChannel(LOCK);
    let isOn = false;
    let isTeller = false;
    channel.onmessage = ({ data }: MessageEvent<Heard>) => {
      if (data.kind !== "who") hear(data);
      else if (isTeller) channel.postMessage({ kind: "live", on: isOn });
    };
    channel.postMessage({ kind: "who" });
    const tell = (heard: Heard) => {
      if (heard.kind === "live") isOn = heard.on;
      if (stop.signal.aborted) return;
      hear(heard);
      channel.postMessage(heard);
    };
    const run = () => {
      isTeller = true;
      return streaming(tell, stop.signal, opened, askTicket);
    };
    // Without locks (no secure context) each tab has a stream of its own.
    if (navigator.locks) navigator.locks.request(LOCK, { signal: stop.signal }, run).catch(() => undefined);
    else run();
    return () => {
      stop.abort();
      channel.close();
      setLive(false);
    };
  }, [client]);
}
