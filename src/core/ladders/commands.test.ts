import { DIALECTS } from '../dialect/dialect';
import { benchFor } from '../testing';
import { carryByCommand, carryBySlicing, inBounds, needsCommand, standsAt } from './commands';

test('a value is told as the command that sets it and the one that keeps it', () => {
  const bench = benchFor('heron');
  const { lines, say } = carryByCommand('advance', 0.42, bench);
  expect(lines).toEqual(['M900 K0.42', 'M500']);
  expect(say).toContain('saves it');
});

test('a machine with a settings file is told the line of that file', () => {
  const { lines, say } = carryByCommand('advance', 0.04, benchFor('wren'));
  expect(lines).toEqual(['pressure_advance: 0.04']);
  expect(say).toContain('settings file');
});

test('without a command to keep it, and without any, it says where the value goes', () => {
  const bench = benchFor('heron');
  const forgetful = {
    ...bench,
    machine: { ...bench.machine, dialect: { ...DIALECTS.A, save: '' } },
  };
  expect(carryByCommand('advance', 0.4, forgetful)).toMatchObject({
    lines: ['M900 K0.4'],
    say: expect.stringContaining('start block') as string,
  });
  const mute = { ...bench, machine: { ...bench.machine, dialect: { ...DIALECTS.A, advance: '' } } };
  expect(carryByCommand('advance', 0.4, mute).lines).toEqual([]);
  expect(needsCommand('advance', mute)!.mend).toContain('row for');
  expect(needsCommand('advance', bench)).toBeNull();
});

test('a range past an end is stopped at the input that is past it', () => {
  const at = (from: number, to: number) =>
    inBounds('retraction', { from, to }, { min: 0, max: 3 }, 'it jams').map(({ where }) => where);
  expect(at(0, 3)).toEqual([]);
  expect(at(0, 4)).toEqual(['to']);
  expect(at(4, 0)).toEqual(['from']);
  expect(at(-1, 2)).toEqual(['from']);
  expect(at(2, -1)).toEqual(['to']);
});

test('what the ledger holds is said, and that it holds nothing', () => {
  const bench = benchFor();
  expect(standsAt('flow', bench)).toContain('No flow');
  expect(standsAt('flow', { ...bench, tuned: { flow: 0.97 } })).toContain('0.97');
  expect(carryBySlicing('flow', 0.97, bench).say).toContain('0.97');
});
