import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { anotherGeneration } from '../store/identity';
import { openStore, migrationsIn } from '../store/open';
import { Desk, PRESS_HEADER, STORE_HEADER } from './desk';

const migrations = 'src/store/migrations';
let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'ash-desk-'))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const press = (name: string) => ({ method: 'POST', url: '/', headers: { [PRESS_HEADER]: name } });

test('what was made with other data is turned away, also after an import; who says nothing comes in', () => {
  const desk = new Desk(folder, migrations);
  const ours = desk.identity();
  const asks = (store: string) => desk.turned({ url: '/x', headers: { [STORE_HEADER]: store } });
  expect(ours).toMatch(/^[0-9a-f]{16}-[0-9a-f]{8}$/);
  expect(asks(ours)).toBeNull();
  expect(asks('another')).toMatchObject({ status: 409 });
  expect(desk.turned({ url: '/x', headers: {} })).toBeNull();
  expect(desk.turned({ url: `/live?of=/readings/1&store=${ours}`, headers: {} })).toBeNull();
  const db = openStore(join(folder, 'ash.sqlite'), migrationsIn(migrations));
  if (!db.ok) throw new Error('no store');
  anotherGeneration(db.value);
  expect(asks(ours)).toMatchObject({ status: 409 });
  expect(desk.turned({ url: `/live?of=/readings/1&store=${ours}`, headers: {} })).not.toBeNull();
  // The same place, another generation.
  expect(desk.identity().slice(0, 17)).toBe(ours.slice(0, 17));
});

test('a press is done once, and what became of it is known afterwards', async () => {
  const desk = new Desk(folder, migrations);
  const asked = press('tab.first.press');
  expect(desk.turned(asked)).toBeNull();
  let end = () => {};
  desk.follow(asked, new Promise<void>((resolve) => (end = resolve)), () => 200);
  expect(desk.turned(asked)).toMatchObject({ status: 409 });
  const fate = desk.fate('tab.first.press');
  end();
  expect(await fate).toBe('done');
  // Also for the program that is started next.
  expect(await new Desk(folder, migrations).fate('tab.first.press')).toBe('done');
});

test('one that never came does not come any more once it was asked for', async () => {
  const desk = new Desk(folder, migrations);
  expect(await desk.fate('tab.never.came')).toBe('barred');
  expect(desk.turned(press('tab.never.came'))).toMatchObject({ status: 409 });
});

test('one that the program ended in, or that fell over, is said to be cut', async () => {
  const desk = new Desk(folder, migrations);
  desk.turned(press('tab.in.the.middle'));
  expect(await new Desk(folder, migrations).fate('tab.in.the.middle')).toBe('cut');
  desk.turned(press('tab.fell.over'));
  desk.follow(press('tab.fell.over'), Promise.resolve(), () => 500);
  expect(await desk.fate('tab.fell.over')).toBe('cut');
});
