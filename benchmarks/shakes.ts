/** What a record of an accelerometer costs: reading it, and all that is told of it. */

import { analyseRecord } from '../src/core/shake/analyse';
import { readRecord } from '../src/core/shake/record';
import { makeShakeFile } from '../src/core/shake/shake-file';
import { recordOf } from '../src/understudy/accelerometer';
import { drawTruths } from '../src/understudy/truths';
import { demoBench } from '../src/understudy/understudies';
import { row, timed } from './measure';

const [RATE, SECONDS, BUDGET_MS] = [3200, 60, 1000];

export function shakes(): void {
  const bench = demoBench('wren');
  const file = makeShakeFile(bench, { axis: 'x', seconds: SECONDS });
  if (!file.ok) throw new Error('no shake file');
  const record = recordOf(file.value.text, bench, drawTruths(bench, 47), { rate: RATE });
  if (!record.ok) throw new Error('no record');
  const read = readRecord(record.value);
  if (!read.ok) throw new Error('not read');
  const { marks } = file.value;
  const parsing = timed(() => readRecord(record.value), 5);
  const analysing = timed(() => analyseRecord(read.value, { axis: 'x', marks }), 7);
  row(
    `a record of ${Math.round(read.value.x.length / read.value.rate)} s × ${RATE} Hz × 3 axes`,
    `${analysing.toFixed(0)} ms to analyse (budget ${BUDGET_MS})`,
    analysing < BUDGET_MS,
  );
  row(
    '  against reading the same',
    `${(analysing / parsing).toFixed(2)} × of ${parsing.toFixed(0)} ms`,
  );
}
