'use client';
// A form for one thing: saves whole or says what is wrong.
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import type { Answer, Problem } from '@/core/result';
import { Problems } from '../common/Problems';

type Props = { title: string; save: () => Promise<Answer<number>>; children: ReactNode };

export function SaveForm({ title, save, children }: Props) {
  const router = useRouter();
  const [problems, setProblems] = useState<Problem[]>([]);
  const [busy, setBusy] = useState(false);
  return (
    <main className="mx-auto max-w-4xl px-4 py-8">
      <h1>{title}</h1>
      <form
        className="mt-6 space-y-8"
        onSubmit={(event) => {
          event.preventDefault();
          setBusy(true);
          void save().then((answer) => {
            setBusy(false);
            if (answer.ok) router.push('/things');
            else setProblems(answer.problems);
          });
        }}
      >
        {children}
        <Problems problems={problems} />
        <div className="bg-base-100 sticky bottom-0 flex gap-2 py-3">
          <button type="submit" className="btn-main" disabled={busy}>
            Save
          </button>
          <button type="button" className="btn-quiet" onClick={() => router.back()}>
            Leave as it was
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
