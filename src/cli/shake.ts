import type { Command } from 'commander';
import { short } from '../core/numbers';
import { problem, problemLine, type Problem } from '../core/result';
import { analyse, checkSensor, type Analysis } from '../core/shake/analyse';
import { marksIn } from '../core/shake/marks';
import { UNITS, type Unit } from '../core/shake/record';
import { SHAPER_TITLES } from '../core/dialect/shapers';
import { FINDINGS, giveUp, must, print, readBytesOf } from './io';

type Given = {
  axis?: string;
  accel?: string;
  rate?: string;
  unit?: string;
  file?: string;
  still?: true;
  json?: true;
};

/** `ash shake record.csv --axis x --json` */
export function addShake(program: Command): void {
  program
    .command('shake')
    .description('what an accelerometer’s record says of a machine, and the shaper that suits it')
    .argument('<record>', 'samples as CSV or TSV: time, x, y and z')
    .option('--axis <axis>', 'axis of the machine that was shaken: x or y')
    .option('--accel <mm/s²>', 'tell echo and rounding at this acceleration')
    .option('--rate <hz>', 'samples a second, where the record has no time')
    .option('--unit <unit>', `what the record counts in: ${UNITS.join(', ')}`)
    .option('--file <gcode>', 'the shake file that ran meanwhile: what was put in when')
    .option('--still', 'the sensor lay still: only whether it is right')
    .option('--json', 'as JSON')
    .action((file: string, given: Given) => {
      const text = new TextDecoder().decode(must(readBytesOf(file)));
      const said = {
        ...(given.rate ? { rate: positive('--rate', given.rate) } : {}),
        ...(given.unit ? { unit: unitOf(given.unit) } : {}),
      };
      if (given.still) return still(checkSensor(text, said), given.json ?? false);
      const found = analyse(text, {
        ...said,
        ...(given.file ? { marks: must(marksIn(textOf(given.file))) } : {}),
        ...(given.axis ? { axis: axisOf(given.axis) } : {}),
        ...(given.accel ? { acceleration: positive('--accel', given.accel) } : {}),
      });
      if (given.json) print(JSON.stringify(asJson(found), null, 2));
      else tell(found);
      if (found.refused.length > 0) process.exitCode = FINDINGS;
    });
}

const textOf = (path: string): string => new TextDecoder().decode(must(readBytesOf(path)));

function still(refused: Problem[], json: boolean): void {
  if (json) print(JSON.stringify({ ok: refused.length === 0, refused }, null, 2));
  else for (const one of refused) print(problemLine(one));
  if (!json && refused.length === 0) print('The sensor is right.');
  if (refused.length > 0) process.exitCode = FINDINGS;
}

function axisOf(text: string): 'x' | 'y' {
  if (text === 'x' || text === 'y') return text;
  return giveUp([
    problem('--axis', `"${text}" is not an axis that can be shaken.`, 'Give x or y.'),
  ]);
}
function unitOf(text: string): Unit {
  const unit = UNITS.find((one) => one === text.replace('2', '²'));
  return unit ?? giveUp([problem('--unit', `"${text}" is unknown.`, `Give ${UNITS.join(', ')}.`)]);
}
function positive(name: string, text: string): number {
  const value = Number(text);
  return value > 0 && Number.isFinite(value)
    ? value
    : giveUp([problem(name, `"${text}" is not a number above 0.`, 'Give one.')]);
}

function asJson(found: Analysis) {
  const { refused, unit, rate, axis, seconds, sensor, notes } = found;
  const { peaks, shapers, proposal, range, response } = found;
  return {
    ok: refused.length === 0,
    refused,
    unit,
    rate,
    seconds,
    axis,
    sensor,
    notes,
    peaks,
    shapers,
    proposal,
    range,
    response,
  };
}

const OF = { axis: '', panel: ', beside the axis', steady: ', by itself' } as const;

function tell({
  refused,
  unit,
  rate,
  axis,
  notes,
  peaks,
  shapers,
  proposal,
  range,
}: Analysis): void {
  for (const one of refused) print(problemLine(one));
  for (const one of notes) print(one);
  if (rate !== null && unit !== null)
    print(`${short(rate, 1)} samples a second in ${unit}${axis ? `, shaken along ${axis}` : ''}`);
  for (const { hz, damping, share, of } of peaks)
    print(
      `rings at ${short(hz, 1)} Hz, damping ${short(damping, 3)}, ${Math.round(100 * share)} % of the power${OF[of]}`,
    );
  for (const one of shapers)
    print(
      `${one.type} (${SHAPER_TITLES[one.type]}) at ${short(one.hz, 1)} Hz: ${one.acceleration} mm/s², echo ${short(one.echo, 4)} mm, rounding ${short(one.rounding, 4)} mm; ${one.moved} mm/s² if it rings a tenth off`,
    );
  if (proposal) print(proposal.why);
  if (range?.acceleration)
    print(`8 of 10 such records say ${range.acceleration[0]} to ${range.acceleration[1]} mm/s²`);
}
