'use client';
// A form for one thing: saves whole or says what is wrong, and what somebody else saved in between.
import { useRouter } from 'next/navigation';
import { useRef, useState, type ReactNode } from 'react';
import type { Problem } from '@/core/result';
import { attempt } from '../common/attempt';
import { wrongProblem } from '../common/NumberBox';
import { Problems } from '../common/Problems';
import { SubmitButton } from '../common/SubmitButton';

/** What stands now, where another window saved first. */
type Theirs<T> = { body: T; revision: number };
export type SaveAnswer<T> =
  { ok: true; value: number } | { ok: false; problems: Problem[]; theirs?: Theirs<T> };

type Props<T> = {
  title: string;
  /** Revision that the form was filled from; null for a new thing. */
  revision: number | null;
  save: (seen: number | null) => Promise<SaveAnswer<T>>;
  /** Fills the form with what stands now. */
  take: (body: T) => void;
  children: ReactNode;
};

export function SaveForm<T>({ title, revision, save, take, children }: Props<T>) {
  const router = useRouter();
  const form = useRef<HTMLFormElement>(null);
  const [seen, setSeen] = useState(revision);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [theirs, setTheirs] = useState<Theirs<T> | null>(null);
  const [busy, setBusy] = useState(false);

  const submit = async (over: number | null) => {
    const wrong = form.current && wrongProblem(form.current);
    if (wrong) return setProblems([wrong]);
    setBusy(true);
    const answer = await attempt<SaveAnswer<T>>(() => save(over)).finally(() => setBusy(false));
    if (answer.ok) return router.push('/things');
    setProblems(answer.problems);
    setTheirs('theirs' in answer ? (answer.theirs ?? null) : null);
  };
  return (
    <main className="mx-auto max-w-4xl px-4 py-8">
      <h1 className="[overflow-wrap:anywhere]">
        <bdi>{title}</bdi>
      </h1>
      <form
        ref={form}
        noValidate
        className="mt-6 space-y-8"
        // What was said of an input goes when it is changed.
        onChange={() => problems.length > 0 && !theirs && setProblems([])}
        onSubmit={(event) => {
          event.preventDefault();
          void submit(seen);
        }}
      >
        {children}
        <Problems problems={problems} />
        {theirs && (
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="btn-quiet"
              onClick={() => {
                take(theirs.body);
                setSeen(theirs.revision);
                setTheirs(null);
                setProblems([]);
              }}
            >
              Load the other version
            </button>
            <button
              type="button"
              className="btn-quiet"
              onClick={() => void submit(theirs.revision)}
            >
              Save mine instead
            </button>
          </div>
        )}
        <div className="bg-base-100 sticky bottom-0 flex gap-2 py-3">
          <SubmitButton busy={busy} needs="change">
            {busy ? 'Saving …' : 'Save'}
          </SubmitButton>
          <button type="button" className="btn-quiet" onClick={() => router.back()}>
            Discard changes
          </button>
        </div>
      </form>
    </main>
  );
}

export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset>
      <legend className="mb-2 text-xl font-semibold">{title}</legend>
      <div className="grid gap-3 sm:grid-cols-3">{children}</div>
    </fieldset>
  );
}
