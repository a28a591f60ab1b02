import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { KeptLook } from '../core/loupe/kept';
import { good } from '../core/testing';
import { archive } from './archive';
import { looks } from './looks';
import { migrationsIn, openStore, type Db } from './open';
import { photos } from './photos';
import { furnish, PHOTO } from './testing/furnish';

const AT = '2026-11-27T08:00:00.000Z';
let folder: string;
let db: Db;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'ash-looks-'));
  db = good(openStore(join(folder, 'ash.sqlite'), migrationsIn('src/store/migrations')));
});
afterEach(() => {
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

const found = (pxPerMm: number): KeptLook => ({
  side: 'front',
  corners: null,
  found: false,
  pxPerMm,
  bulge: 0,
  problems: [],
  measures: [],
  moved: [],
  flat: { left: 0, bottom: 0, width: 40, height: 30 },
});
const strip = Uint8Array.from([255, 216, 1, 2]);

test('each picture has one look, and a new one takes the place of the old', () => {
  const { print } = furnish(db, AT);
  photos(db).add(print, { ...PHOTO, uid: 'a' });
  const [photo] = photos(db).ofPrint(print);
  const store = looks(db);
  expect(store.of(print, null)).toBeNull();
  store.put({ printId: print, photoId: null, found: found(20), strip, takenAt: AT });
  store.put({ printId: print, photoId: photo!.id, found: found(30), strip: null, takenAt: AT });
  store.put({ printId: print, photoId: null, found: found(21), strip, takenAt: AT });
  const drawn = store.of(print, null)!;
  expect(drawn).toMatchObject({ printId: print, photoId: null, found: found(21), takenAt: AT });
  expect(store.of(print, photo!.id)!.found.pxPerMm).toBe(30);
  expect(new Uint8Array(store.strip(drawn.id)!)).toEqual(strip);
  expect(store.strip(99)).toBeNull();
});

test('measures count as a reading until they are taken out or their picture is archived', () => {
  const { print } = furnish(db, AT);
  photos(db).add(print, { ...PHOTO, uid: 'a' });
  const [photo] = photos(db).ofPrint(print);
  const store = looks(db);
  const measure = (name: 'threads' | 'edge'): KeptLook['measures'][number] => ({
    name,
    rung: 0,
    value: 3,
    spread: 1,
    unit: 'mm',
    told: true,
    at: [
      { x: 0, y: 0 },
      { x: 1, y: 0 },
      { x: 1, y: 1 },
      { x: 0, y: 1 },
    ],
  });
  const measured = { ...found(20), measures: [measure('threads'), measure('edge')] };
  expect(store.count(print, photo!.id, ['threads'])).toBe(false);
  store.put({ printId: print, photoId: photo!.id, found: measured, strip, takenAt: AT });
  expect(store.counted(print)).toEqual([]);
  expect(store.count(print, photo!.id, ['threads'])).toBe(true);
  expect(store.counted(print).map(({ measures }) => measures.map(({ name }) => name))).toEqual([
    ['threads'],
  ]);
  // Measured again it still counts, with its new numbers.
  store.put({ printId: print, photoId: photo!.id, found: measured, strip, takenAt: AT });
  expect(store.of(print, photo!.id)!.counted).toEqual(['threads']);
  archive(db).putAway('photo', photo!.id, AT);
  expect(store.counted(print)).toEqual([]);
  archive(db).restore('photo', photo!.id);
  expect(store.counted(print)).toHaveLength(1);
  store.count(print, photo!.id, []);
  expect(store.counted(print)).toEqual([]);
});
