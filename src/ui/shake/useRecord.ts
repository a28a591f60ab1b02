'use client';
/** Reads a record in a worker, and says how far it is; what it asks back for is asked, and it is read again. */

import * as Comlink from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import { problem, type Problem } from '@/core/result';
import type { Asked } from '@/core/shake/analyse';
import type { KeptShake } from '@/core/shake/kept';
import { marksIn } from '@/core/shake/marks';
import type { ShakeWorker } from '@/workers/shake.worker';
import { begunOnceMore, orBroken } from '../common/worker';

/** Largest record that is read: ten minutes of ten thousand samples a second, generously written. */
const LARGEST = 700 * 2 ** 20;

export type Reading =
  | { phase: 'none' }
  | { phase: 'reading'; name: string }
  | { phase: 'right'; name: string }
  | { phase: 'refused'; name: string; problems: Problem[] };

const unread = (name: string, { message }: Error): Reading => ({
  phase: 'refused',
  name,
  problems: [problem('record', `It could not be read (${message}).`, 'Drop it again.')],
});

type Keep = (name: string, found: KeptShake) => Promise<Problem[]>;

/**
 * @param fileOf address of the shake file whose times the record is laid on
 */
export function useRecord(axis: 'x' | 'y', fileOf: string, keep: Keep) {
  const [reading, setReading] = useState<Reading>({ phase: 'none' });
  const underway = useRef<AbortController | null>(null);
  const last = useRef<File | null>(null);
  const stop = useCallback(() => {
    underway.current?.abort();
    underway.current = null;
  }, []);
  useEffect(() => stop, [stop]);

  const ask = useCallback(
    async (act: 'analyse' | 'check', record: File, asked: Asked) => {
      const { signal } = (underway.current ??= new AbortController());
      let running: Worker | null = null;
      signal.addEventListener('abort', () => running?.terminate());
      const told = await begunOnceMore((alive) => {
        running?.terminate();
        signal.throwIfAborted();
        running = new Worker(new URL('../../workers/shake.worker.ts', import.meta.url), {
          type: 'module',
        });
        const remote = Comlink.wrap<ShakeWorker>(running);
        return orBroken(running, remote[act](record, asked, Comlink.proxy(alive)));
      });
      // Its worker has done what it was for.
      stop();
      return told;
    },
    [stop],
  );

  const read = useCallback(
    async (record: File, given: Pick<Asked, 'rate' | 'unit'> = {}) => {
      last.current = record;
      const { name } = record;
      if (record.size > LARGEST)
        return setReading({
          phase: 'refused',
          name,
          problems: [
            problem(
              'record',
              `It is ${Math.round(record.size / 2 ** 20)} MB.`,
              'Cut it to ten minutes.',
            ),
          ],
        });
      setReading({ phase: 'reading', name });
      try {
        stop();
        const { signal } = (underway.current = new AbortController());
        const file = await fetch(fileOf, { signal });
        const marks = file.ok ? marksIn(await file.text()) : null;
        const asked = { axis, ...given, ...(marks?.ok ? { marks: marks.value } : {}) };
        const { refused, found } = await ask('analyse', record, asked);
        const problems = found ? await keep(name, found) : refused;
        setReading(problems.length > 0 ? { phase: 'refused', name, problems } : { phase: 'none' });
      } catch (error) {
        if ((error as Error).name === 'AbortError') return;
        setReading(unread(name, error as Error));
      }
    },
    [ask, axis, fileOf, keep, stop],
  );

  const check = useCallback(
    async (record: File) => {
      const { name } = record;
      stop();
      setReading({ phase: 'reading', name });
      try {
        const { refused } = await ask('check', record, {});
        setReading(
          refused.length > 0
            ? { phase: 'refused', name, problems: refused }
            : { phase: 'right', name },
        );
      } catch (error) {
        setReading(unread(name, error as Error));
      }
    },
    [ask, stop],
  );

  return {
    reading,
    read,
    check,
    /** The same record again, with what it did not say itself. */
    again: (given: Pick<Asked, 'rate' | 'unit'>) => {
      if (last.current) void read(last.current, given);
    },
    stop: () => {
      stop();
      setReading({ phase: 'none' });
    },
  };
}
