/** What people do, in steps that tests share. */

import { expect, type Page } from '@playwright/test';

/** Makes a bench from a starting point; three fields are changed. */
export async function newBench(page: Page, machine: string, filament: string): Promise<void> {
  await page.goto('/bench/new');
  const machines = page.getByLabel('Machine', { exact: true });
  if (await machines.isVisible()) await machines.selectOption('new');
  const filaments = page.getByLabel('Filament', { exact: true });
  if (await filaments.isVisible()) await filaments.selectOption('new');
  await page.getByLabel('Machine’s name').fill(machine);
  await page.getByLabel('Filament’s name').fill(filament);
  await page.getByLabel('Hottest on its label, °C').fill('220');
  await page.getByRole('button', { name: 'Make this bench' }).click();
  await expect(page.getByRole('combobox', { name: 'Bench' })).toContainText(machine);
}

/** Sets up a temperature ladder from the bench page and waits for its drawing. */
export async function newLadder(page: Page): Promise<void> {
  await setUp(page, 'temperature');
}

/** Ladders that are found under the rung of another name. */
const RUNGS: Record<string, string> = {
  'flow by a wall': 'Flow',
  'pressure advance by hairpins': 'Pressure advance',
  'temperature and retraction': 'Temperature',
};

/** Opens the rung of the route that has a ladder, as far down as it lies. */
export async function openRung(page: Page, title: string): Promise<void> {
  const name = RUNGS[title] ?? title.slice(0, 1).toUpperCase() + title.slice(1);
  const rung = page.getByRole('button', { name: new RegExp(`^${name}( |$)`), expanded: false });
  const more = [
    page.getByRole('button', { name: / not found yet/, expanded: false }),
    page.locator('summary', { hasText: 'Only when you suspect something' }),
  ];
  for (const fold of more)
    if (!(await rung.isVisible()) && (await fold.isVisible())) await fold.click();
  await rung.click();
}

/** Sets up a ladder by its name and waits for its drawing. */
export async function setUp(page: Page, title: string): Promise<void> {
  await openRung(page, title);
  await page.getByRole('button', { name: `New ${title} ladder` }).click();
  await expect(page.locator('canvas').first()).toBeVisible();
}

/** Makes the file and says that it was printed. */
export async function printIt(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Generate file' }).click();
  await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
  await page.getByRole('button', { name: 'Printed: score it' }).click();
  await expect(page.getByText('of 7 from the bottom')).toBeVisible();
}

/** Opens a file from elsewhere. */
export async function openFile(page: Page, name: string, text: string): Promise<void> {
  await page.goto('/inspect');
  await page
    .getByLabel('G-code file')
    .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

/** Sum of all scores given so far, as the page tells it. */
export const progress = (page: Page) => page.getByText(/^\d+ \/ \d+$/);
