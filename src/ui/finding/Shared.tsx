// What every finding has, whether of one setting or of two.
import type { ReactNode } from 'react';
import type { Setting } from '@/core/bench/settings';
import type { Finding } from '@/core/reading/finding';
import type { Answer } from '@/core/result';
import type { Outcome } from '../common/ActButton';
import type { ShownStrip } from '../common/LookStrip';
import type { Named } from '@/core/view/shared-axis';
import { Differences, type Differing } from './Differences';
import { EyeAndLoupe } from './EyeAndLoupe';
import { NextStep } from './NextStep';
import { Reveal } from './Reveal';
import { Weights, type FoundCriterion } from './Weights';

export type SharedProps = {
  finding: Finding;
  /** Where the picture of the print is, and its size, mm. */
  picture: string;
  /** Straightened pictures of the last print. */
  looks: readonly ShownStrip[];
  height: number;
  width: number;
  stretch: number;
  /** Which prints and readings it stands on, in words. */
  from: string;
  criteria: FoundCriterion[];
  /** Where the rest is scored. */
  scoring: string;
  /** Says whether a value is in the machine itself now. */
  carryIt: (id: number, carried: boolean) => Promise<Outcome>;
  put: (typed?: number, of?: Setting) => Promise<Answer<number>>;
  takeBack: (id: number) => Promise<Outcome>;
  /** What comes next on the bench, once this is saved. */
  after: { title: string; href: string } | null;
  turn: (weights: Record<string, number>) => Promise<Outcome>;
  goals: { title: string; weights: Record<string, number> }[];
  /** Where those who looked at the same print disagree, the furthest first. */
  differences: Differing[];
  /** Other benches that the same ladder can be set up for. */
  elsewhere: ReactNode;
  /** What its rungs are called. */
  rungs: readonly Named[];
  next: (() => Promise<Outcome>) | null;
  simulated: boolean;
  /** Tells what was hidden, for a simulated print. */
  reveal: (() => Promise<Answer<{ name: string; value: string }[]>>) | null;
};

/** Other things that were noticed on the way. */
export function Notes({ notes }: Pick<Finding, 'notes'>) {
  return notes.map((note) => (
    <p key={note} className="border-secondary mt-3 border-l-4 pl-3">
      {note}
    </p>
  ));
}

type OnwardProps = Pick<
  SharedProps,
  | 'finding'
  | 'rungs'
  | 'next'
  | 'differences'
  | 'criteria'
  | 'turn'
  | 'goals'
  | 'elsewhere'
  | 'reveal'
> & { children?: ReactNode };

/** What can be done after it: the next ladder, other weights, other benches. */
export function Onward(props: OnwardProps) {
  const { finding, next, differences, criteria, turn, goals, elsewhere, reveal } = props;
  return (
    <>
      {finding.voices && <EyeAndLoupe voices={finding.voices} rungs={props.rungs} />}
      {!finding.proof && <NextStep finding={finding} setUp={next} />}
      {props.children}
      <Differences all={differences} />
      {criteria.length > 0 && <Weights criteria={criteria} turn={turn} goals={goals} />}
      {elsewhere}
      {reveal && <Reveal reveal={reveal} />}
    </>
  );
}
