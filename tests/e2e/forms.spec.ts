import { expect, test } from './base';
import { newBench, openRung } from './people';

test('a round bed, another origin and another set of commands are kept', async ({ page }) => {
  await page.goto('/things/machine/new?from=heron');
  await page.getByLabel('Name', { exact: true }).fill('Turnstone');
  await page.getByLabel('Bed shape').selectOption('round');
  await page.getByLabel('Bed diameter, mm').fill('190');
  await page.getByLabel('Origin of x and y').selectOption('centre');
  await page.getByLabel('The set that comes closest').selectOption('C');
  await expect(page.getByLabel('To set pressure advance')).toHaveValue('M572 D0 S{advance}');
  await page.getByLabel('Cornering', { exact: true }).selectOption('square-corner');
  await page.getByLabel('Square-corner speed, mm/s').fill('6.5');
  await page.getByRole('button', { name: 'Save' }).click();
  await page
    .getByRole('link', { name: /Turnstone/ })
    .first()
    .click();
  await expect(page.getByLabel('Bed diameter, mm')).toHaveValue('190');
  await expect(page.getByLabel('Origin of x and y')).toHaveValue('centre');
  await expect(page.getByLabel('The set that comes closest')).toHaveValue('C');
  await expect(page.getByLabel('Square-corner speed, mm/s')).toHaveValue('6.5');
});

test('every wrong field of a machine is told at once, and nothing is saved', async ({ page }) => {
  await page.goto('/things/machine/new?from=wren');
  await page.getByLabel('Print height, mm').fill('0');
  await page.getByLabel('Retraction, mm', { exact: true }).fill('99');
  await page.getByLabel('End block').fill('M104 S0\nM117 {colour}');
  await page.getByRole('button', { name: 'Save' }).click();
  const alert = page.locator('main').getByRole('alert');
  for (const where of ['Name', 'Print height', 'Retraction'])
    await expect(alert).toContainText(`${where}:`);
  await page.goto('/things');
  await expect(page.getByText('{colour}')).toBeHidden();
});

test('choosing a material brings its temperatures, which can still be changed', async ({
  page,
}) => {
  await page.goto('/things/filament/new');
  await page.getByLabel('Name', { exact: true }).fill('Brine two');
  await page.getByLabel('Material').selectOption('ASA');
  await expect(page.getByLabel('Coolest on its label, °C')).toHaveValue('235');
  await page.getByLabel('Coolest on its label, °C').fill('300');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.locator('main').getByRole('alert')).toContainText(
    'The lowest label temperature lies above the highest',
  );
  await page.getByLabel('Coolest on its label, °C').fill('240');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('link', { name: /Brine two/ }).first()).toContainText(
    'ASA, 240 to 265 °C',
  );
});

test('a new bench without names says which are missing', async ({ page }) => {
  await page.goto('/bench/new');
  const machines = page.getByLabel('Machine', { exact: true });
  if (await machines.isVisible()) await machines.selectOption('new');
  await page.getByLabel('Machine’s name').fill('   ');
  const filaments = page.getByLabel('Filament', { exact: true });
  if (await filaments.isVisible()) await filaments.selectOption('new');
  await page.getByLabel('Filament’s name').fill('Moss forms');
  await page.getByRole('button', { name: 'Make this bench' }).click();
  await expect(page.locator('main').getByRole('alert')).toContainText('Name');
  await expect(page).toHaveURL(/bench\/new/);
});

test('the designer fits a phone, drawing and all', { tag: '@long' }, async ({ page }) => {
  await newBench(page, 'Heron phone', 'Moss phone');
  await page.setViewportSize({ width: 390, height: 844 });
  for (const path of [
    '/bench/new',
    '/things',
    '/things/machine/new?from=otter',
    '/things/filament/new',
  ]) {
    await page.goto(path);
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth),
      path,
    ).toBeLessThanOrEqual(390);
  }
  await page.goto('/');
  const bench = page.getByRole('combobox', { name: 'Bench' });
  await expect(bench).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await openRung(page, 'temperature');
  await page.getByRole('button', { name: 'New temperature ladder' }).click();
  await expect(page.locator('canvas').first()).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
