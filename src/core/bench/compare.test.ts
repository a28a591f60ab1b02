import { comparedInWords, compareSettings } from './compare';
import type { ReportedSetting } from './reported';
import type { Setting } from './settings';

const seen = (setting: Setting, value: number): ReportedSetting => ({
  setting,
  value,
  values: {},
  line: 1,
  text: '',
});

test('differences come first, and each row says what it wants', () => {
  const rows = compareSettings(
    { advance: 0.45, acceleration: 1300, jerk: 8, nozzle: 210 },
    [seen('steps', 96.4), seen('advance', 0), seen('acceleration', 1300), seen('jerk', 8)],
    [seen('steps', 96.4), seen('advance', 0), seen('acceleration', 1000), seen('jerk', 8)],
  );
  expect(rows.map(({ setting, wants }) => [setting, wants])).toEqual([
    ['advance', 'apply'],
    ['acceleration', 'store'],
    ['steps', 'nothing'],
    ['jerk', 'nothing'],
  ]);
  expect(comparedInWords(rows, true)).toBe(
    'One value of the ledger is not in the machine; one is not stored',
  );
});

test.each([
  [{ advance: 0.1 }, [seen('advance', 0.1)], null, 'Everything in the ledger is in force'],
  [
    { advance: 0.1 },
    [seen('advance', 0.1)],
    [seen('advance', 0.1)],
    'Everything in the ledger is in the machine, and stored',
  ],
  [
    { advance: 0.1 },
    [seen('advance', 0.1)],
    [seen('advance', 0.2)],
    'One value is in force in the machine, but not stored',
  ],
  [
    { advance: 0.1, acceleration: 9 },
    [seen('advance', 1), seen('acceleration', 10)],
    null,
    'Two values of the ledger are not in the machine',
  ],
  [{}, [seen('advance', 0.1)], null, 'Nothing to compare yet'],
])('%#: %j', (found, now, stored, words) => {
  expect(comparedInWords(compareSettings(found, now, stored), stored !== null)).toContain(words);
});

test('a first-layer offset is added once, and is no difference after that', () => {
  const now = [seen('zOffset', -1.2), seen('advance', 0)];
  const still = compareSettings({ zOffset: 0.05 }, now, null)[0]!;
  expect(still).toMatchObject({ setting: 'zOffset', ledger: 0.05, wants: 'apply', adds: 'still' });
  const added = compareSettings({ zOffset: 0.05 }, now, null, ['zOffset'])[0]!;
  expect(added).toMatchObject({ wants: 'nothing', adds: 'done' });
  const unkept = compareSettings({ zOffset: 0.05 }, now, [seen('zOffset', -1.25)], ['zOffset']);
  expect(unkept[0]).toMatchObject({ setting: 'zOffset', wants: 'store' });
  // Nothing to add is nothing to do.
  expect(compareSettings({ zOffset: 0 }, now, null)[0]!.wants).toBe('nothing');
  expect(compareSettings({}, now, null)[0]).not.toHaveProperty('adds');
});
