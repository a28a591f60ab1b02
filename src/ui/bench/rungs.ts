/** A rung of the route as the bench shows it. */

import type { Criterion } from '@/core/criteria';
import type { Stop, Underway } from '@/core/route/route';

/** A way to find its value: a ladder that can be set up. */
export type RungWay = {
  kind: string;
  title: string;
  /** What else it finds on the same print. */
  also: string | null;
};

/** A ladder of it that is there. */
export type RungLadder = { id: number; title: string; state: Underway['state']; at: string };

/** A value that stood on it. */
export type RungValue = { id: number; said: string; at: string; ladder: number | null };

export type Rung = Stop & {
  /** What it decides, in one sentence. */
  decides: string;
  /** Why its usual ladder is as it is, for this bench. */
  reason: string;
  /** What is looked at: the drawing of poor and clean; null where nothing is scored. */
  looks: Criterion | null;
  /** Within which its value lies most likely, in words. */
  between: string | null;
  ways: RungWay[];
  ladders: RungLadder[];
  before: RungValue[];
  /** What belongs to it besides. */
  shake: { href: string; machine: string; says: string } | null;
};

/** Where a ladder is, in words, and where one goes on with it. */
export const GO_ON = {
  designed: {
    short: 'set up',
    says: 'is set up, ready to print.',
    label: 'Continue designing',
    screen: 'design',
  },
  printed: {
    short: 'printed, waiting to be scored',
    says: 'is printed and waiting to be scored.',
    label: 'Score it',
    screen: 'read',
  },
  reading: {
    short: 'partly scored',
    says: 'is partly scored.',
    label: 'Continue scoring',
    screen: 'read',
  },
  read: {
    short: 'scored',
    says: 'is scored; its value is ready to save.',
    label: 'See the finding',
    screen: 'finding',
  },
} as const;
