import type { Plan } from '../core/plan/plan';
import type { Place } from '../understudy/looks';

/** Where each rung of a plan is looked at. */
export const placesOf = ({ rungs }: Plan): Place[] =>
  rungs.map(({ z, boxes, looked }) => {
    const box = looked ?? boxes?.[0];
    return box ? { z, box } : { z };
  });
