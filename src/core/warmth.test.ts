import { heatNote, heatSaid } from './warmth';

test.each([
  [{}, 'It has not said how warm it is'],
  [{ nozzle: { now: 24, target: 0 }, bed: { now: 23, target: 0 } }, 'Cold and idle'],
  [{ nozzle: { now: 24, target: 0 }, bed: { now: 58, target: 0 } }, 'Cooling: do not touch it yet'],
  [{ nozzle: { now: 120, target: 210 }, bed: { now: 60, target: 60 } }, 'Heating'],
  [{ nozzle: { now: 209, target: 210 }, bed: { now: 60, target: 60 } }, 'Hot, as it should be'],
  // A second nozzle burns as well, and some machines tell no target.
  [
    { nozzle: { now: 24, target: 0 }, others: [{ now: 180, target: 0 }] },
    'Cooling: do not touch it yet',
  ],
  [{ nozzle: { now: 24, target: NaN } }, 'Cold and idle'],
])('%j is told', (heat, says) => expect(heatSaid(heat)).toBe(says));

test.each([
  [undefined, 'not said'],
  [{ now: 24, target: 0 }, 'off'],
  [{ now: 180, target: 0 }, 'off, still hot'],
  [{ now: 180, target: 210 }, 'to 210 °C'],
  [{ now: 208, target: 210 }, 'held at 210 °C'],
])('beside %j stands %s', (heat, says) => expect(heatNote(heat)).toBe(says));
