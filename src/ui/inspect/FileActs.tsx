'use client';
// What can be done with a file that is open: keep it, or score its print when Ash Ladder made it.
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Problem } from '@/core/result';
import { ActButton, type Outcome } from '../common/ActButton';

/** Sends the file to a route of the program. @returns what it answers @throws when no answer comes */
async function send(
  url: string,
  source: Blob,
): Promise<{ href: string } | { problems: Problem[] }> {
  const answer = await fetch(url, { method: 'POST', body: source });
  return (await answer.json()) as { href: string } | { problems: Problem[] };
}

type Opened = { name: string; source: Blob; benchId: number | null };

/** Keeps a file with a bench, whole. @returns where it is then, or why not */
const keepFile = ({ name, source, benchId }: Opened) =>
  send(`/kept?bench=${benchId}&name=${encodeURIComponent(name)}`, source);

export function Keep(file: Opened) {
  const { benchId } = file;
  const [kept, setKept] = useState<number | null>(null);
  if (benchId === null) return null;
  if (kept === benchId) return <span className="soft">kept with this bench</span>;
  return (
    <ActButton
      className="btn-quiet btn-sm"
      needs="change"
      act={async (): Promise<Outcome> => {
        const answer = await keepFile(file);
        if ('problems' in answer) return { ok: false, problems: answer.problems };
        setKept(benchId);
        return { ok: true };
      }}
    >
      Keep with this bench
    </ActButton>
  );
}

/** Keeps the file with its bench, and goes to where a ladder is made of it. */
export function MakeLadder(file: Opened) {
  const router = useRouter();
  if (file.benchId === null) return null;
  return (
    <ActButton
      className="btn-main btn-sm"
      needs="change"
      act={async (): Promise<Outcome> => {
        const answer = await keepFile(file);
        if ('problems' in answer) return { ok: false, problems: answer.problems };
        router.push(answer.href.replace('/inspect?kept=', '/graft/'));
        return { ok: true };
      }}
    >
      Make a ladder of it
    </ActButton>
  );
}

/** A file that Ash Ladder made carries its plan: its print can be scored wherever it is found. */
export function MadeHere({
  name,
  source,
  title,
  rungs,
}: {
  name: string;
  source: Blob;
  title: string;
  rungs: number;
}) {
  const router = useRouter();
  return (
    <div className="border-primary mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 py-1 pl-4">
      <p>
        A ladder made by Ash Ladder, with {rungs} {rungs === 1 ? 'rung' : 'rungs'}
        {title !== name && `, first called ${title}`}. Printed already?
      </p>
      <ActButton
        className="btn-quiet btn-sm"
        needs="change"
        act={async (): Promise<Outcome> => {
          const answer = await send('/adopt', source);
          if ('problems' in answer) return { ok: false, problems: answer.problems };
          router.push(answer.href);
          return { ok: true };
        }}
      >
        Score its print
      </ActButton>
    </div>
  );
}
