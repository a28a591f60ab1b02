import { SETTING_NAMES } from './settings';
import { termOf } from './terms';

test('every setting is explained in one sentence', () => {
  for (const setting of SETTING_NAMES) {
    const said = termOf(setting);
    expect(said).toMatch(/^[A-Z].*\.$/);
    expect(said.match(/\. /g) ?? []).toEqual([]);
    expect(said.length).toBeLessThan(150);
  }
});
