'use client';
/**
 * Parts that are loaded only where they are shown. Each has a boundary of its own: one that cannot be loaded, or that
 * fails, is said in its place, with a press to try again, and whatever stands beside it works on.
 */

import { Component, useEffect, useState, type ComponentType, type ReactNode } from 'react';

type Load<P> = () => Promise<ComponentType<P>>;

/** @param what it is, as a sentence begins: "The curve" */
export function later<P extends object>(what: string, load: Load<P>): ComponentType<P> {
  return function Later(props: P) {
    const [tries, setTries] = useState(0);
    const again = () => {
      // The tag of a script that failed stands in the way: its error has been, and would be waited for again.
      document
        .querySelectorAll('script[src*="/_next/static/chunks/"]')
        .forEach((tag) => tag.remove());
      setTries(tries + 1);
    };
    return (
      <Boundary key={tries} what={what} again={again}>
        <Loaded load={load} props={props} />
      </Boundary>
    );
  };
}

function Loaded<P extends object>({ load, props }: { load: Load<P>; props: P }) {
  const [part, setPart] = useState<{ Part: ComponentType<P> } | { error: Error } | null>(null);
  useEffect(() => {
    let gone = false;
    load().then(
      (Part) => gone || setPart({ Part }),
      (error: Error) => gone || setPart({ error }),
    );
    return () => {
      gone = true;
    };
  }, [load]);
  if (part === null) return null;
  if ('error' in part) throw part.error;
  return <part.Part {...props} />;
}

type BoundaryProps = { what: string; again: () => void; children: ReactNode };

class Boundary extends Component<BoundaryProps, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError = () => ({ failed: true });

  override render() {
    const { what, again, children } = this.props;
    if (!this.state.failed) return children;
    return (
      <div role="status" className="border-warning my-3 border-l-4 pl-3">
        <p>{what} could not be loaded. Everything else on this page works without it.</p>
        <button type="button" className="btn-quiet btn-sm mt-2" onClick={again}>
          Try again
        </button>
      </div>
    );
  }
}
