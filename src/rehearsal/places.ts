import { kindFor } from '../core/ladders/registry';
import type { Plan } from '../core/plan/plan';
import type { Place } from '../understudy/looks';

/** Where each rung of a plan is looked at, and single criteria of it where its kind says so. */
export function placesOf(plan: Pick<Plan, 'kind' | 'spec' | 'rungs'>): Place[] {
  const kind = kindFor(plan);
  const pointed = kind.ok ? kind.value.criteria.filter(({ box }) => box !== undefined) : [];
  return plan.rungs.map(({ z, boxes, looked }): Place => {
    const box = looked ?? boxes?.[0];
    const own = pointed.flatMap(({ name, box: at }) => (boxes?.[at!] ? [[name, boxes[at!]]] : []));
    return {
      z,
      ...(box ? { box } : {}),
      ...(own.length > 0 ? { own: Object.fromEntries(own) as Place['own'] } : {}),
    };
  });
}
