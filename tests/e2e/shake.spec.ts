import { expect, test, type Page } from './base';
import { readFileSync } from 'node:fs';
import { benchFor } from '../../src/core/testing';
import { recordOf } from '../../src/understudy/accelerometer';
import { drawTruths } from '../../src/understudy/truths';
import { ownServer } from './own-server';
import { newBench, openRung } from './people';

const fastest = async (page: Page): Promise<number> =>
  Number((await page.getByTestId('fastest').innerText()).replace(/[^\d]/g, '').slice(0, -1));

test('a record is dropped, its faults are told, and what it says goes to the ledger', async ({
  page,
}) => {
  await newBench(page, 'Heron shake', 'Moss shake');
  await openRung(page, 'acceleration');
  await page.getByRole('link', { name: 'Shake Heron shake' }).click();
  await expect(page.getByRole('heading', { name: 'New record of x' })).toBeVisible();

  // The file is made as the page says, and somebody's sensor records it.
  await page.getByText('Band, strength, length').click();
  await page.getByLabel('Length, s').fill('15');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Shake file' }).click(),
  ]);
  const text = readFileSync(await file.path(), 'latin1');
  expect(text).toContain('; 135 Hz');
  const bench = benchFor('heron');
  const truths = drawTruths(bench, 10);
  const record = (options: Parameters<typeof recordOf>[3]) => {
    const made = recordOf(text, bench, truths, { rate: 1000, ...options });
    if (!made.ok) throw new Error('no record');
    return { name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from(made.value) };
  };

  // A still second says whether the sensor is right.
  await page
    .getByLabel('Check a still record')
    .setInputFiles(record({ still: true, fault: 'power' }));
  await expect(page.getByText('Every sample is zero', { exact: false })).toBeVisible();
  await page.getByLabel('Check a still record').setInputFiles(record({ still: true }));
  await expect(page.getByText('the sensor is right', { exact: false })).toBeVisible();

  // A record without times is asked for its rate, and read again.
  const bare = record({})
    .buffer.toString()
    .split('\n')
    .map((line) => line.split(',').slice(1).join(','))
    .join('\n');
  await page
    .getByLabel('Choose the record')
    .setInputFiles({ name: 'bare.csv', mimeType: 'text/csv', buffer: Buffer.from(bare) });
  await expect(page.getByText('No column of the record is a time.')).toBeVisible();
  await page.getByLabel('Samples a second').fill('1000');
  await page.getByRole('button', { name: 'Read it again' }).click();
  await expect(page.getByTestId('fastest')).toBeVisible();

  // The same with its times; both can be compared, and read out with the keys.
  await page.getByText('Shake again').click();
  await page.getByText('Band, strength, length').click();
  await page.getByLabel('Length, s').fill('15');
  await page.getByLabel('Choose the record').setInputFiles(record({}));
  await expect(page.getByText('x.csv', { exact: false }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Response' })).toBeVisible();
  await page.getByLabel('Compare with').selectOption({ index: 1 });
  await page.getByRole('img', { name: /^Power/ }).focus();
  await page.keyboard.press('ArrowUp');
  const told = page.getByText(/^[\d.]+ Hz: [\d.]+ % of the highest power$/);
  const main = Number.parseFloat(await told.innerText());
  expect(Math.abs(main - truths.resonance.x)).toBeLessThan(2);

  // Less may be seen: it must go slower. What is saved is what is shown.
  const usual = await fastest(page);
  await page.getByLabel('Ghost that may be seen, mm').fill('0.002');
  await page.getByLabel('Corner that may be cut, mm').fill('0.01');
  await expect.poll(() => fastest(page)).toBeLessThan(usual);
  await page.getByLabel('Ghost that may be seen, mm').fill('0.012');
  await page.getByLabel('Corner that may be cut, mm').fill('0.12');
  await expect.poll(() => fastest(page)).toBe(usual);
  await page.getByRole('button', { name: 'Save to ledger' }).click();
  await expect(page.getByText(/^The ledger has two impulses at [\d.]+ Hz/)).toBeVisible();

  // What is put away comes back.
  await page.getByRole('button', { name: 'Archive the record bare.csv' }).click();
  await expect(page.getByText('It is in the archive.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Archive the record bare.csv' })).toBeVisible();
  await page.getByRole('link', { name: /Heron shake · 0.4 mm/ }).click();
  await page.getByRole('button', { name: 'Show the lines' }).click();
  await expect(page.getByText(/^M593 F[\d.]+ D0\.\d+$/)).toBeVisible();
});

test('echoes on a print stand for a sensor', { tag: '@long' }, async ({ page }) => {
  await newBench(page, 'Heron echo', 'Moss echo');
  await openRung(page, 'acceleration');
  await page.getByRole('link', { name: 'Shake Heron echo' }).click();
  await page.getByLabel('Speed of the face, mm/s').fill('100');
  await page.getByLabel('Distance over them, mm').fill('1');
  await page.getByRole('button', { name: 'Work it out from echoes' }).click();
  await expect(page.getByText('machines ring at 5 to 150', { exact: false })).toBeVisible();
  await page.getByLabel('Distance over them, mm').fill('10');
  await page.getByRole('button', { name: 'Work it out from echoes' }).click();
  await expect(page.getByTestId('fastest')).toBeVisible();
  await expect(page.getByText('40 Hz', { exact: false }).first()).toBeVisible();
});

test(
  'over the wire: shaken, saved, put in force, and proven on a print',
  { tag: '@long' },
  async ({ page }) => {
    const server = await ownServer('demo', 4784, { speed: 2000 });
    try {
      const shake = `${server.address}/bench/2/shake`;
      await page.goto(`${server.address}/bench/2/machine`);
      await page.getByRole('button', { name: 'Simulated: Warm sensor' }).click();
      await expect(page.getByRole('table')).toBeVisible();
      for (const axis of ['x', 'y']) {
        await page.goto(`${shake}?axis=${axis}`);
        await page.getByText('Shake again').click();
        await page.getByText('Band, strength, length').click();
        await page.getByLabel('Length, s').fill('25');
        server.pace(1, 2000);
        await page.getByRole('button', { name: 'Shake Wren on the wire, simulated' }).click();
        await expect(page.getByText(/^Wren is shaking/)).toBeVisible();
        server.pace(2000);
        // The demo has a record of its own: this one is of the machine on the wire.
        await expect(page.getByText('Simulated on “Warm sensor”', { exact: false })).toBeVisible();
        await page.getByRole('button', { name: 'Save to ledger' }).click();
        await expect(page.getByText(/^The ledger has/)).toBeVisible();
      }
      // One line of the machine says frequency, kind and damping.
      await page.goto(`${server.address}/bench/2/machine`);
      await page.getByRole('button', { name: 'Apply input shaper frequency in x' }).click();
      const row = (name: string) => page.getByRole('row').filter({ hasText: name });
      await expect(row('Input shaper frequency in x')).toContainText('agrees');
      await expect(row('Input shaper damping in x')).toContainText('agrees');

      await page.goto(`${shake}?axis=x`);
      await page.getByRole('button', { name: 'Prove it on a print' }).click();
      await page.getByRole('button', { name: 'Generate file' }).click();
      await page.getByRole('button', { name: 'Print on the understudy' }).click();
      await expect(page.getByRole('heading', { name: 'Score' })).toBeAttached();
      // Without the shaper three rungs are clean, with it all but the last two; the columns follow each other.
      await page.getByRole('button', { name: 'by criterion' }).click();
      for (let rung = 0; rung < 7; rung++)
        for (const clean of [rung < 2, rung < 5]) await page.keyboard.press(clean ? '4' : '1');
      await page.getByRole('link', { name: 'Finding' }).first().click();
      await expect(page.getByText(/^Proposed acceleration/)).toBeVisible();
      await expect(
        page.getByText(/^The shake said: a ghost can be seen from \d+ mm/),
      ).toBeVisible();
    } finally {
      await server.stop();
    }
  },
);
