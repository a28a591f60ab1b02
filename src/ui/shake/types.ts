import type { LinkState } from '@/core/link-state';
import type { Bench } from '@/core/bench/bench';
import type { AxisName } from '@/core/bench/shaper';
import type { KeptShake } from '@/core/shake/kept';
import type { ShakeAxis } from '@/core/shake/marks';
import type { Limits } from '@/core/shake/propose';
import type { Shaper } from '@/core/dialect/shapers';
import type { Answer } from '@/core/result';

export type ShakeRow = {
  id: number;
  axis: ShakeAxis;
  name: string;
  found: KeptShake;
  simulated: { name: string; seed: number } | null;
  takenAt: string;
};

/** What the page of an axis is made of. */
export type ShakePage = {
  benchId: number;
  bench: Bench;
  axis: AxisName;
  /** Of this axis, the newest first; and those of the other one. */
  shakes: ShakeRow[];
  others: ShakeRow[];
  /** The one that is looked at, by its number. */
  chosen: number | null;
  /** Whether the machine has one shaper for both axes; kinds that it takes; its largest acceleration, mm/s². */
  shared: boolean;
  kinds: Record<AxisName, Shaper[]>;
  most: number;
  ready: { name: string; seed: number }[];
  faults: { name: string; says: string }[];
  /** Echoes that were measured on an acceleration ladder of this axis, the newest; null without any. */
  echoes: { speed: number; distance: number; gaps: number } | null;
  wire: { machine: number; first: LinkState | null };
  /** What the ledger holds of this axis, in words: of the machine itself, and of simulated ones. */
  ledger: Record<'real' | 'simulated', string | null>;
  nowMs: number;
};

export type Choice = {
  axis: AxisName;
  shake: number;
  limits: Limits;
  type: Shaper | null;
};

export type ShakeActs = {
  keep: (axis: ShakeAxis, name: string, found: KeptShake) => Promise<Answer<number>>;
  echoes: (sent: { speed: number; distance: number; gaps: number }) => Promise<Answer<number>>;
  understudy: (asked: object, seed: number, fault: string) => Promise<Answer<number>>;
  onWire: (asked: object) => Promise<Answer>;
  stopEverything: () => Promise<Answer>;
  save: (choice: Choice) => Promise<Answer>;
  prove: (choice: Choice) => Promise<Answer>;
  putAway: (id: number, away: boolean) => Promise<Answer>;
};
