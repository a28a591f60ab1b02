import fc from 'fast-check';
import { CLOSED_MS, CODE_LASTS_MS, MOST_WRONG, Pairing } from './pairing';

const same = (a: string, b: string) => a === b;

/** A pairing whose clock is set, and whose codes count up. */
function pairing() {
  const world = { now: 1_000_000, next: 41 };
  return {
    world,
    pairing: new Pairing(
      () => world.now,
      () => ++world.next,
    ),
  };
}

test('a code lets in once', () => {
  const { pairing: door } = pairing();
  const { code } = door.offer()!;
  expect(code).toBe('000042');
  expect(door.take(code, same)).toBe(true);
  expect(door.take(code, same)).toBe(false);
  expect(door.current()).toBeNull();
});

test('a code is over after two minutes, to the millisecond', () => {
  const { world, pairing: door } = pairing();
  const { code } = door.offer()!;
  world.now += CODE_LASTS_MS - 1;
  expect(door.current()?.code).toBe(code);
  world.now += 1;
  expect(door.take(code, same)).toBe(false);
  expect(door.current()).toBeNull();
});

test('a new code ends the one before, and what is hidden lets nobody in', () => {
  const { pairing: door } = pairing();
  const { code: old } = door.offer()!;
  const { code } = door.offer()!;
  expect(door.take(old, same)).toBe(false);
  door.withdraw();
  expect(door.take(code, same)).toBe(false);
});

test('ten wrong codes close pairing for a while, also over several codes', () => {
  const { world, pairing: door } = pairing();
  for (let i = 0; i < MOST_WRONG - 1; i++) {
    door.offer();
    expect(door.take('wrong!', same)).toBe(false);
  }
  expect(door.closedUntil()).toBeNull();
  const { code } = door.offer()!;
  door.take('wrong!', same);
  expect(door.take(code, same)).toBe(false);
  expect(door.closedUntil()).toBe(world.now + CLOSED_MS);
  expect(door.offer()).toBeNull();
  world.now += CLOSED_MS;
  expect(door.closedUntil()).toBeNull();
  expect(door.take(door.offer()!.code, same)).toBe(true);
});

test('without a code out nobody can close pairing, and nobody gets in', () => {
  const { pairing: door } = pairing();
  for (let i = 0; i < 3 * MOST_WRONG; i++) expect(door.take('000042', same)).toBe(false);
  expect(door.closedUntil()).toBeNull();
  expect(door.offer()).not.toBeNull();
});

test('whatever is tried, and however long is waited, a code lets in at most once, while it lasts', () => {
  const step = fc.oneof(
    fc.constant({ do: 'offer' as const }),
    fc.record({ do: fc.constant('wait' as const), ms: fc.integer({ min: 1, max: 200_000 }) }),
    fc.record({ do: fc.constant('take' as const), code: fc.integer({ min: 40, max: 60 }) }),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const { world, pairing: door } = pairing();
      const made = new Map<string, number>();
      for (const one of steps) {
        if (one.do === 'wait') world.now += one.ms;
        else if (one.do === 'offer') {
          const offer = door.offer();
          if (offer) made.set(offer.code, offer.until);
        } else {
          const code = String(one.code).padStart(6, '0');
          if (!door.take(code, same)) continue;
          expect(world.now).toBeLessThan(made.get(code) ?? 0);
          made.delete(code);
        }
      }
    }),
    { seed: 12 },
  );
});
