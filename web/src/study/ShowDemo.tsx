import { Link } from "react-router";
import { Button } from "../ui/Button";
import { useBrand } from "./brand";
import { useAskForDemo, useDemo } from "./queries";

/** A way to see every screen full before one's own figures are there: a brand of invented ones, made while one goes on. */
export function ShowDemo() {
  const { can } = useBrand();
  const demo = useDemo();
  const ask = useAskForDemo();
  if (!demo.data || !can("brand.change")) return null;
  const { state, slug, is_offered } = demo.data;
  if (state === "none" && !is_offered) return null;
  return (
    <div className="mt-3" aria-live="polite">
      {state === "ready" && slug ? (
        <Link to={`/${slug}/results`} className="under hover:text-berry">
          Open the demo
        </Link>
      ) : state === "waiting" ? (
        <p role="status">The demo is being made. It takes a minute or two; you can go on meanwhile.</p>
      ) : state === "going" ? (
        <p role="status">The last demo is being taken away.</p>
      ) : (
        <Button isBusy={ask.isPending} onClick={() => ask.mutate()}>
          {state === "failed" ? "Try the demo once more" : "Show me with the demo’s data"}
        </Button>
      )}
      {ask.error ? (
        <p role="alert" className="mt-1 text-down">
          {ask.error.message}
        </p>
      ) : (
        state === "failed" && <p className="mt-1 text-down">The demo could not be made; it is still empty.</p>
      )}
      <p className="label mt-1">
        Half a year of an invented museum of clocks, as a brand beside yours. You alone see it, nothing of it goes out
        by itself, and it is gone after a month.
      </p>
    </div>
  );
}
