import { meltsAt, tooCold } from './feeding';

test.each([
  [undefined, 'not told to be hot'],
  [{ now: 210, target: 0 }, 'not told to be hot'],
  [{ now: 100, target: 100 }, 'not told to be hot'],
  [{ now: 150, target: 210 }, 'at 150 °C on its way to 210 °C'],
  [{ now: 168, target: 171 }, 'on its way'],
  [{ now: 207, target: 210 }, null],
  [{ now: 215, target: 210 }, null],
])('%j: %s', (nozzle, why) => {
  const told = tooCold(nozzle, 170);
  if (why === null) expect(told).toBeNull();
  else expect(told!.what).toContain(why);
});

test('what is hot enough for one material is not for another', () => {
  const nozzle = { now: 210, target: 210 };
  expect(tooCold(nozzle, 170)).toBeNull();
  expect(tooCold(nozzle, 220)!.mend).toContain('220 °C');
  expect([meltsAt(nozzle, 170), meltsAt(nozzle, 220)]).toEqual([true, false]);
});
