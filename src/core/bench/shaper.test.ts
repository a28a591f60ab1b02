import { DIALECTS } from '../dialect/dialect';
import { benchFor } from '../testing';
import { settingInfo, saidValue, bareValue, valueLine } from './settings';
import { kindsTaken, noShaper, shaperSettings, shaperValues, shaperWay, shapingIn } from './shaper';

const ei = { type: 'EI', hz: 46, damping: 0.06 } as const;

test('a machine has a shaper for each axis, for both, or none', () => {
  expect(Object.values(DIALECTS).map(shaperWay)).toEqual(['both', 'both', 'both', 'axes']);
  const mute = { ...DIALECTS.A, shaper: '' };
  expect(shaperWay(mute)).toBe('none');
  expect(noShaper(mute)).toEqual({});
  expect(noShaper(DIALECTS.D)).toEqual({ shaperX: 0, shaperY: 0 });
});

test('which kinds it takes stands in its row; one that asks for none knows two impulses', () => {
  expect(kindsTaken(DIALECTS.A, 'x')).toEqual(['ZV']);
  expect(kindsTaken(DIALECTS.C, 'y')).toEqual(['ZVD', 'MZV', '2HEI', '3HEI']);
  expect(kindsTaken(DIALECTS.D, 'y')).toHaveLength(6);
});

test.each(['A', 'C', 'D'] as const)('column %s: what is set is what is read again', (column) => {
  const dialect = DIALECTS[column];
  const [type] = kindsTaken(dialect, 'x');
  const shaping = { ...ei, type: type! };
  for (const axis of ['x', 'y'] as const) {
    const values = shaperValues(dialect, axis, shaping);
    expect(shapingIn(dialect, axis, values)).toEqual(shaping);
    expect(shapingIn(dialect, axis, shaperValues(dialect, axis, null))).toBeNull();
    for (const name of Object.keys(values)) expect(shaperSettings(dialect)).toContain(name);
  }
});

test('one row says all three, whichever of them is set', () => {
  const bench = benchFor('wren');
  const tuned = shaperValues(bench.machine.dialect, 'y', ei);
  const line = 'SET_INPUT_SHAPER SHAPER_TYPE_Y=ei SHAPER_FREQ_Y=46 DAMPING_RATIO_Y=0.06';
  for (const [setting, value] of Object.entries(tuned))
    expect(valueLine(setting as 'shaperY', value, { ...bench, tuned })).toBe(line);
  // What nobody has found stands as it usually does.
  expect(valueLine('shaperX', 40, bench)).toBe(
    'SET_INPUT_SHAPER SHAPER_TYPE_X=zv SHAPER_FREQ_X=40 DAMPING_RATIO_X=0.1',
  );
});

test('a choice is said by its word', () => {
  expect(saidValue('shaperTypeX', 3)).toBe('one hump');
  expect(bareValue('shaperTypeX', 4)).toBe('two humps');
  expect(saidValue('shaperX', 46.5)).toBe('46.5 Hz');
  expect(settingInfo('shaperTypeX').unit).toBe('');
});
