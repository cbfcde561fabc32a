import { Component, type ReactNode } from "react";
import { Button } from "./Button";

type Props = { children: ReactNode /** Another place: what failed before is tried anew there. */; place: string };
type State = { error: Error | null; place: string };

/** A part of the program that did not come: after an update the old names of the files are gone. */
const NOT_LOADED = /dynamically imported module|module script failed|Loading chunk|preload CSS/i;

/** A defect of ours ends one page, not the whole: what happened is said, with a way on. */
export class Boundary extends Component<Props, State> {
  override state: State = { error: null, place: this.props.place };

  static getDerivedStateFromError(error: unknown): Partial<State> {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  static getDerivedStateFromProps(props: Props, state: State): Partial<State> | null {
    return props.place === state.place ? null : { place: props.place, error: null };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    const isOld = NOT_LOADED.test(error.message);
    return (
      <div role="alert" className="mx-auto flex max-w-md flex-col items-start gap-2 px-4 py-10">
        <h1 className="text-[17px]">{isOld ? "Dakika was updated meanwhile" : "This page met a mistake of ours"}</h1>
        <p className="text-muted">
          {isOld
            ? "A part of this page is not there any more in the form that your browser knows. Load the page again; drafts are kept."
            : "Nothing that was saved is touched, and drafts are kept. Load the page again, or go on elsewhere."}
        </p>
        {!isOld && <code className="label break-words">{error.message}</code>}
        <div className="mt-1 flex flex-wrap gap-2">
          <Button kind="main" onClick={() => window.location.reload()}>
            Load the page again
          </Button>
          {!isOld && (
            <Button onClick={() => this.setState({ error: null })} kind="plain">
              Try once more
            </Button>
          )}
        </div>
      </div>
    );
  }
}
