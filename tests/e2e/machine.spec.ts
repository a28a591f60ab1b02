import { expect, test, type Page } from './base';
import { execFileSync } from 'node:child_process';
import { stripLine } from '../../src/core/dialect/command';
import { benchFor } from '../../src/core/testing';
import { FakeMachine } from '../../src/link/testing/fake-machine';
import { Firmware } from '../../src/understudy/firmware';
import { drawTruths } from '../../src/understudy/truths';
import { serveWire } from '../../src/understudy/wire';
import { ownServer } from './own-server';
import { newBench, setUp } from './people';

/** Links the machine of the bench that is open to one that is simulated. */
async function connect(page: Page): Promise<void> {
  await page.getByRole('link', { name: /on the wire:/ }).click();
  await page.getByRole('button', { name: 'Calm day, made like Heron' }).click();
  await expect(page.getByText('Calm day stands in for', { exact: false })).toBeVisible();
}
/** How fast a simulated machine lives where nobody waits for it, and where it must be caught in the middle. */
const [FAST, SLOW, SLOWEST] = [2000, 20, 8];

/** A demo of its own with Heron linked to its understudy. */
async function ownDemo(page: Page, port: number) {
  const server = await ownServer('demo', port, { speed: FAST });
  await page.goto(`${server.address}/bench/1/machine`);
  await page.getByRole('button', { name: 'Simulated: Calm day' }).click();
  await expect(page.getByRole('table')).toBeVisible();
  return server;
}
/** Where a line for the machine is typed, opened where it is not. */
async function lineFor(page: Page) {
  const line = page.getByLabel('Line for the machine');
  if (!(await line.isVisible())) await page.getByText('Talk to the machine').click();
  return line;
}

/** Switches the machine off and on, and waits until it is found again. */
async function offAndOn(page: Page): Promise<void> {
  const line = await lineFor(page);
  await line.fill('FIRMWARE_RESTART');
  await line.press('Enter');
  await expect(page.getByText(/has restarted/)).toBeVisible();
  await expect(page.getByRole('heading', { name: /^How is/ })).toBeVisible();
  await expect(stop(page)).toBeVisible();
}
const stop = (page: Page) => page.getByRole('button', { name: 'Stop everything' });
const row = (page: Page, name: string) => page.getByRole('row').filter({ hasText: name });

async function disconnect(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Disconnect' }).click();
  await expect(page.getByRole('heading', { name: /^How is/ })).toBeVisible();
}

test(
  'from a print over the wire to a value that the machine keeps when it is switched off',
  { tag: '@long' },
  async ({ page, own }) => {
    await newBench(page, 'Heron wire', 'Moss wire');
    await connect(page);
    await expect(page.getByRole('heading', { name: /^Nothing to compare yet/ })).toBeVisible();
    await expect(row(page, 'Pressure advance')).toContainText('Take it over');

    // A ladder is printed: watched, paused, gone on with, and it stands as printed.
    await page.getByRole('link', { name: /Heron wire · 0.4 mm/ }).click();
    await setUp(page, 'temperature');
    await page.getByRole('button', { name: 'Generate file' }).click();
    own.pace(SLOW, FAST);
    await page.getByRole('button', { name: 'Print on Heron wire, simulated' }).click();
    await expect(page.getByText(/^Printing rung \d of 7/)).toBeVisible();
    await page.getByRole('button', { name: 'Pause' }).click();
    await expect(page.getByText('Paused')).toBeVisible();
    await expect(page.getByText(/Heat is kept for 15 min more/)).toBeVisible();
    await page.getByRole('button', { name: 'Go on' }).click();
    own.pace(FAST);
    await page.getByRole('link', { name: 'Score it' }).click();
    await expect(page.getByText('Simulated on “Calm day”', { exact: false })).toBeVisible();

    // A value for pressure advance goes into the ledger, then into the machine.
    await page.goto('/');
    await setUp(page, 'pressure advance by hairpins');
    await page.getByRole('button', { name: 'Generate file' }).click();
    await page.getByRole('button', { name: 'Print on Heron wire, simulated' }).click();
    await page.getByRole('link', { name: 'Score it' }).click();
    await page.getByRole('button', { name: 'by criterion' }).click();
    for (const score of '001122334433221100000') await page.keyboard.press(score);
    await page.getByRole('link', { name: 'Finding' }).first().click();
    const value = Number.parseFloat(await page.locator('p.text-7xl').innerText());
    await page.getByRole('button', { name: 'Save to ledger, as simulated' }).click();
    await expect(page.getByText('Saved to the ledger, as simulated.')).toBeVisible();
    await page.getByRole('link', { name: /Heron wire · 0.4 mm/ }).click();
    await page.getByRole('link', { name: /on the wire:/ }).click();
    await expect(
      page.getByRole('heading', { name: 'One value of the ledger is not in the machine' }),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Apply pressure advance' }).click();
    await expect(
      page.getByRole('heading', { name: 'Everything in the ledger is in force in the machine' }),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Read what is stored' }).click();
    await page.getByRole('button', { name: 'Store pressure advance' }).click();
    await expect(page.getByRole('heading', { name: /in the machine, and stored$/ })).toBeVisible();
    // The ladder itself has left its last value in force.
    await expect(page.getByText(`${value} s of pressure advance, 1 before, stored`)).toBeVisible();

    // Off and on: it is found again, and what was stored is still there.
    await offAndOn(page);
    await expect(row(page, 'Pressure advance')).toContainText(String(value));
    await expect(row(page, 'Pressure advance')).toContainText('agrees');

    await page.getByRole('button', { name: `Take back ${value} s of pressure advance` }).click();
    await expect(page.getByText('stored, simulated, taken back')).toBeVisible();
    await expect(row(page, 'Pressure advance')).toContainText('Apply');
    await disconnect(page);
  },
);

test(
  'a first layer is nudged while it prints; its height goes into the machine and stays there',
  { tag: '@long' },
  async ({ page }) => {
    const server = await ownDemo(page, 4783);
    await expect(row(page, 'First-layer offset')).toContainText('0');
    await page.goto(`${server.address}/bench/1`);
    await setUp(page, 'first layer');
    await page.getByLabel('Last, lowest').fill('-0.04');
    server.pace(SLOWEST, FAST);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await page.getByRole('button', { name: 'Print on Heron, simulated' }).click();
    await expect(page.getByText(/^Printing rung \d of 8/)).toBeVisible();
    const down = page.getByRole('button', { name: 'Nozzle down by 0.05 mm' });
    await down.click();
    const height = page.getByRole('region', { name: 'Height while it prints' });
    await expect(height.getByText('-0.05 mm', { exact: true })).toBeVisible();
    await down.click();
    await expect(page.getByText(/would dig into the bed/).first()).toBeVisible();
    // It stands on the drawing where it took effect, and the value in force now is the height with it.
    await expect(page.getByLabel('Drawing').getByText('-0.05', { exact: true })).toBeVisible();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^-?0(\.\d+)? mm$/);
    await page.getByRole('button', { name: 'Nozzle up by 0.02 mm' }).click();
    await expect(height.getByText('-0.03 mm', { exact: true })).toBeVisible();
    server.pace(FAST);
    await expect(page.getByRole('heading', { name: 'Printed' })).toBeVisible();
    await page.getByRole('button', { name: 'Add -0.07 mm to the machine, prove, store' }).click();
    await expect(page.getByText(/it confirmed it, and keeps it/)).toBeVisible();

    // Whoever scores it sees the heights that it was printed at, and how it was printed.
    await page.getByRole('link', { name: 'Score it' }).click();
    await page.getByText(/^Printed over the wire in .*, nudged by -0.03 mm/).click();
    await expect(page.getByRole('list', { name: 'Nudges' }).getByRole('listitem')).toHaveCount(2);
    await expect(page.getByText('-0.07 mm').first()).toBeVisible();

    await page.goto(`${server.address}/bench/1/machine`);
    await expect(row(page, 'First-layer offset')).toContainText('added');
    await offAndOn(page);
    await expect(row(page, 'First-layer offset')).toContainText('-0.07');
    await page.getByRole('button', { name: 'Take back -0.07 mm of first-layer offset' }).click();
    await expect(row(page, 'First-layer offset')).toContainText('Add and store');
    await server.stop();
  },
);

test('a cable that is pulled out while it prints holds the print; put back, it goes on', async ({
  page,
}) => {
  const bench = benchFor('heron');
  const executed: string[] = [];
  let speed = SLOW;
  const pace = (readies: boolean) => (readies ? FAST : speed);
  const firmware = new Firmware(bench, drawTruths(bench, 3), { speed: pace, executed });
  const cable = await serveWire(firmware);
  await newBench(page, 'Heron cable', 'Moss cable');
  await page.getByRole('link', { name: /on the wire:/ }).click();
  await page.getByLabel('Address').fill(`tcp:127.0.0.1:${cable.port}`);
  await page.getByRole('button', { name: 'Connect' }).click();
  await expect(stop(page)).toBeVisible();
  await page.getByRole('link', { name: /Heron cable · 0.4 mm/ }).click();
  await setUp(page, 'temperature');
  await page.getByRole('button', { name: 'Generate file' }).click();
  await page.getByRole('button', { name: 'Print on Heron cable' }).click();
  await expect(page.getByText(/^Printing rung \d of 7/)).toBeVisible();

  cable.cut(true);
  await expect(page.getByText(/link was lost.*being looked for/i)).toBeVisible();
  await expect(page.getByText('Link lost, looking for it', { exact: true })).toBeVisible();
  const before = executed.length;
  cable.mend();
  await expect(page.getByText(/^The link was lost and is back/)).toBeVisible();
  expect(executed.slice(before).filter((line) => /^G1 X/.test(line)).length).toBeLessThan(8);
  await page.getByRole('button', { name: 'Go on' }).click();
  speed = FAST;
  await expect(page.getByRole('heading', { name: 'Printed' })).toBeVisible();
  // Every line once and in order, over both connections.
  const href = await page.getByRole('link', { name: 'Print it again' }).getAttribute('href');
  await page.goto(href!);
  const file = await page.getByRole('link', { name: 'Download' }).getAttribute('href');
  const text = await (await page.request.get(file!)).text();
  const moves = (lines: readonly string[]) => lines.filter((one) => /^G1 X/.test(one));
  expect(moves(executed)).toEqual(moves(text.split('\n').map(stripLine)));
  await cable.close();
});

test('a machine is heated, talked to, tuned, and stopped with a key', async ({ page }) => {
  await newBench(page, 'Heron stop', 'Moss stop');
  await connect(page);
  await page.getByText('Heat …').click();
  await page.getByLabel('Nozzle, °C').fill('400');
  await page.getByRole('button', { name: 'Heat', exact: true }).click();
  await expect(page.getByText('bears 260 °C', { exact: false })).toBeVisible();
  await page.getByLabel('Nozzle, °C').fill('200');
  await page.getByRole('button', { name: 'Heat', exact: true }).click();
  await expect(page.getByText(/^Nozzle, (to|held at) 200 °C$/)).toBeVisible();
  await expect(page.getByText(/heaters go off in \d+ min/)).toBeVisible();
  await page.getByRole('button', { name: 'Heaters off' }).click();
  await expect(page.getByText('Nozzle, off')).toBeVisible();

  const line = await lineFor(page);
  await line.fill('M115');
  await line.press('Enter');
  await expect(page.getByText(/FIRMWARE_NAME: understudy/).first()).toBeVisible();
  await expect(line).toHaveValue('');
  await line.press('ArrowUp');
  await expect(line).toHaveValue('M115');

  // Its extruder is measured by hand: marked, fed, what is left is entered, once more, and put in.
  await page.getByText('Measure the extruder steps (400 steps/mm now)').click();
  await page.getByRole('button', { name: 'Feed 100 mm' }).click();
  await expect(page.getByText(/not told to be hot enough/)).toBeVisible();
  await page.getByRole('button', { name: /^Heat the nozzle to/ }).click();
  await expect(page.getByText('The nozzle is at 2', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Feed 100 mm' }).click();
  const left = page.getByLabel('Distance left to the mark, mm');
  await left.fill('12');
  await left.press('Enter');
  await expect(page.getByText('370.4')).toBeVisible();
  await page.getByRole('button', { name: 'Feed 100 mm again' }).click();
  await left.fill('24');
  await left.press('Enter');
  await expect(page.getByText(/contradict each other/)).toBeVisible();
  await page.getByRole('button', { name: 'Remove' }).last().click();
  await page.getByRole('button', { name: 'Save it, apply, prove, store' }).click();
  await expect(row(page, 'Extruder steps')).toContainText('agrees');
  await expect(
    page.getByText(/^370.4 steps\/mm of extruder steps, 400 before, stored/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Take back 370.4' }).click();
  await expect(page.getByText('stored, simulated, taken back')).toBeVisible();
  await page.getByRole('button', { name: 'Heaters off' }).click();

  // The machine tunes its own heater; what it found goes in, and is read back.
  await page.getByText('Tune the heater').click();
  await page.getByRole('button', { name: 'Tune it' }).click();
  await expect(page.getByText('instead of P 22.2', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Apply the new numbers' }).click();
  await expect(page.getByText('In force: the machine says so.')).toBeVisible();

  await page.locator('body').press('Escape');
  await expect(page.getByText('It was stopped by the emergency stop.')).toBeVisible();
  await expect(page.getByText(/Switch the machine off and on/)).toBeVisible();
  // A simulated one is switched off and on when it is connected again: nobody can reach behind it.
  await page.getByRole('button', { name: 'Calm day, made like Heron' }).click();
  await expect(page.getByText('Nozzle, off')).toBeVisible();
  await disconnect(page);
});

test('an address that is none, and one where nothing is, are refused in words', async ({
  page,
}) => {
  await newBench(page, 'Heron away', 'Moss away');
  await page.getByRole('link', { name: /on the wire:/ }).click();
  const address = page.getByLabel('Address');
  await address.fill('heron.local');
  await page.getByRole('button', { name: 'Connect' }).click();
  await expect(page.getByText(/is no address of a machine/)).toBeVisible();
  await address.fill('tcp:127.0.0.1:9');
  await page.getByRole('button', { name: 'Connect' }).click();
  await expect(page.getByText(/nothing listens there/).first()).toBeVisible();
  await expect(address).toHaveValue('tcp:127.0.0.1:9');
});

test(
  'a print goes on when the server ends in the middle of it, and so does the page',
  { tag: '@long' },
  async ({ page }) => {
    const port = 4789;
    const server = await ownDemo(page, port);
    await page.goto(`${server.address}/ladder/1/print`);
    server.pace(SLOW, FAST);
    await page.getByRole('button', { name: 'Print on Heron, simulated' }).click();
    await expect(page.getByText(/^Printing rung \d of 8/)).toBeVisible();
    execFileSync('pkill', ['-9', '-f', `dist/server.js ${port}`]);
    server.pace(FAST);
    // Nobody touches the page: it finds the print again by itself, and its end.
    await expect(page.getByRole('heading', { name: 'Printed' })).toBeVisible();
    await page.getByRole('link', { name: 'Score it' }).click();
    await expect(page.getByText('Simulated on “Calm day”', { exact: false }).first()).toBeVisible();

    // A file that was kept is checked first, then printed; and stopped here.
    await page.goto(`${server.address}/bench/1/machine`);
    server.pace(SLOW, FAST);
    await page.getByRole('button', { name: 'Print lantern-post.gcode' }).click();
    await expect(page.getByRole('heading', { name: /^Printing, \d+ %/ })).toBeVisible();
    await page.getByRole('button', { name: 'Stop and cool' }).click();
    await expect(page.getByRole('heading', { name: 'Stopped' })).toBeVisible();
    await expect(page.getByText('Nozzle, off')).toBeVisible();
    await server.stop();
  },
);

test('a machine that goes while it is warm is spoken of on every page, until a person says that it is off', async ({
  page,
}) => {
  await newBench(page, 'Heron lost', 'Moss lost');
  const fake = await new FakeMachine().listen();
  await page.getByRole('link', { name: /on the wire:/ }).click();
  await page.getByLabel('Address').fill(fake.address);
  await page.getByRole('button', { name: 'Connect', exact: true }).click();
  await page.getByText('Heat …').click();
  await page.getByRole('button', { name: 'Heat', exact: true }).click();
  await expect.poll(() => fake.isHot).toBe(true);
  await fake.close();
  const said = page.getByText(/^Heron lost may still be hot: the link was lost at \d\d:\d\d\./);
  await expect(said).toBeVisible();
  await page.goto('/phones');
  await expect(said).toBeVisible();
  await page.getByRole('button', { name: 'Heron lost is off' }).click();
  await expect(said).toBeHidden();
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(said).toBeHidden();
});

test(
  'what is made again the same is printed, not what was made last',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron thrice', 'Moss thrice');
    await setUp(page, 'temperature');
    const names: string[] = [];
    for (const top of ['190', '195', '190']) {
      await page.getByLabel('Top, °C').fill(top);
      await page.getByRole('button', { name: 'Generate file' }).click();
      await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
      names.push(await page.locator('p.font-mono').first().innerText());
      await page.getByRole('link', { name: 'Design' }).click();
    }
    expect(names[2]).toBe(names[0]);
    expect(names[1]).not.toBe(names[0]);
  },
);
