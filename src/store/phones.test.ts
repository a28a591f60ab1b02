/** Devices that were let in, pictures of prints, and what belongs to this computer. */

import { good } from '../core/testing';
import { archive } from './archive';
import { devices } from './devices';
import { migrationsIn, openStore, type Db } from './open';
import { own } from './own';
import { photos } from './photos';
import { furnish, PHOTO } from './testing/furnish';

const [EARLY, LATE] = ['2026-11-02T08:00:00.000Z', '2026-11-02T09:30:00.000Z'];
let db: Db;
beforeEach(() => {
  db = good(openStore(':memory:', migrationsIn('src/store/migrations')));
});
afterEach(() => db.close());

test('a device is known by the hash of its cookie until it is put out', () => {
  const all = devices(db);
  const phone = all.letIn('Phone', 'Mara', 'h1', EARLY);
  const tablet = all.letIn('Tablet', 'Ines', 'h2', EARLY);
  expect(all.byHash('h1')).toMatchObject({ id: phone, reader: 'Mara', rights: [] });
  expect(all.byHash('h3')).toBeNull();
  all.used(phone, LATE);
  expect(all.all().map(({ id }) => id)).toEqual([phone, tablet]);
  expect(all.allow(tablet, ['start'])).toBe(true);
  expect(all.get(tablet)?.rights).toEqual(['start']);

  expect(all.putOut(phone, LATE)).toBe(true);
  expect(all.byHash('h1')).toBeNull();
  expect(all.get(phone)).toBeNull();
  expect(all.all().map(({ id }) => id)).toEqual([tablet]);
  // Twice is once, and nothing is allowed to one that is out.
  expect(all.putOut(phone, LATE)).toBe(false);
  expect(all.allow(phone, ['change'])).toBe(false);
});

test('two devices never share a cookie', () => {
  devices(db).letIn('Phone', 'Mara', 'h1', EARLY);
  expect(() => devices(db).letIn('Tablet', 'Ines', 'h1', EARLY)).toThrow(/UNIQUE/);
});

test('a picture is kept once however often it comes, and every change of them is counted', () => {
  const { print } = furnish(db, EARLY);
  const all = photos(db);
  expect(all.revision(print)).toBe(0);
  all.add(print, { ...PHOTO, uid: 'a' });
  all.add(print, { ...PHOTO, uid: 'a', reader: 'somebody else' });
  all.add(print, { ...PHOTO, uid: 'b' });
  expect(all.ofPrint(print).map(({ uid, reader }) => [uid, reader])).toEqual([
    ['a', 'Mara'],
    ['b', 'Mara'],
  ]);
  expect(all.revision(print)).toBe(2);
  expect(all.has('a')).toBe(true);
  const { id } = all.ofPrint(print)[0]!;
  expect([...all.bytes(id, 'jpeg')!]).toEqual([...PHOTO.jpeg]);
  expect([...all.bytes(id, 'preview')!]).toEqual([...PHOTO.preview]);
  expect(all.bytes(99, 'jpeg')).toBeNull();
  expect(all.printOf(id)).toBe(print);

  // Archived it is seen nowhere, and comes back as it was.
  expect(archive(db).putAway('photo', id, LATE)).toBe(true);
  expect(all.ofPrint(print).map(({ uid }) => uid)).toEqual(['b']);
  expect(archive(db).all(9)).toEqual([expect.objectContaining({ shelf: 'photo', id })]);
  expect(archive(db).restore('photo', id)).toBe(true);
  expect(all.ofPrint(print)).toHaveLength(2);
  expect(all.revision(print)).toBe(4);
});

test('what belongs to this computer is said anew, not twice', () => {
  expect(own(db).get('reader')).toBeNull();
  own(db).set('reader', 'Ines');
  own(db).set('reader', 'Ines M');
  expect(own(db).get('reader')).toBe('Ines M');
});
