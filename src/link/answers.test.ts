import fc from 'fast-check';
import { readAnswer } from './answers';

test.each([
  ['ok', { kind: 'ok' }],
  ['OK', { kind: 'ok' }],
  ['ok N12 P15 B3', { kind: 'ok', line: 12, room: 3 }],
  [
    'ok T:201.3 /205.0 B:60.0 /60.0 T0:201.3 /205.0 @:127 B@:0',
    {
      kind: 'ok',
      heat: {
        nozzle: { now: 201.3, target: 205 },
        bed: { now: 60, target: 60 },
        others: [{ now: 201.3, target: 205 }],
      },
    },
  ],
  ['Resend: 7', { kind: 'resend', line: 7 }],
  ['Resend:7', { kind: 'resend', line: 7 }],
  ['rs N7', { kind: 'resend', line: 7 }],
  ['resend 7', { kind: 'resend', line: 7 }],
  ['Error:Line Number is not Last Line Number+1, Last Line: 6', { kind: 'spoilt' }],
  ['Error:checksum mismatch, Last Line: 6', { kind: 'spoilt' }],
  ['Error: line 9 came, 8 was expected', { kind: 'spoilt' }],
  ['Error:No Line Number with checksum, Last Line: 0', { kind: 'spoilt' }],
  [
    'Error:Printer halted. kill() called!',
    { kind: 'halted', text: 'Printer halted. kill() called!' },
  ],
  ['!! Heater does not heat', { kind: 'halted', text: 'Heater does not heat' }],
  [
    'Error: heating failed; the machine has stopped',
    { kind: 'halted', text: 'heating failed; the machine has stopped' },
  ],
  [
    'Error: 300 is over the 260 that this heater is rated for',
    { kind: 'error', text: '300 is over the 260 that this heater is rated for' },
  ],
  ['echo:busy: processing', { kind: 'busy', forPerson: false }],
  ['echo:busy: paused for user', { kind: 'busy', forPerson: true }],
  ['busy', { kind: 'busy', forPerson: false }],
  ['wait', { kind: 'wait' }],
  ['start', { kind: 'greeting' }],
  ['echo: External Reset', { kind: 'greeting' }],
  ['T:23.4', { kind: 'heat', heat: { nozzle: { now: 23.4, target: NaN } } }],
  [' T:201.3 /205.0', { kind: 'heat', heat: { nozzle: { now: 201.3, target: 205 } } }],
  ['echo:Unknown command: "M987 Q1"', { kind: 'unknown', word: 'M987' }],
  ['Error: Unknown command M987', { kind: 'unknown', word: 'M987' }],
  ['echo: cold extrusion prevented', { kind: 'error', text: 'cold extrusion prevented' }],
  ['echo:  M92 X80.00 E93.00', { kind: 'text', text: 'echo:  M92 X80.00 E93.00' }],
  ['starting up the fan', { kind: 'text', text: 'starting up the fan' }],
  [
    'X:0.00 Y:0.00 Z:5.00 E:0.00 Count X:0',
    { kind: 'text', text: 'X:0.00 Y:0.00 Z:5.00 E:0.00 Count X:0' },
  ],
])('%j', (line, answer) => {
  expect(readAnswer(line)).toEqual(answer);
  expect(readAnswer(`${line}\r`)).toEqual(answer);
});

test('an empty line is none, and nothing that comes is a fault', () => {
  expect(readAnswer(' \r')).toBeNull();
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), (text) => {
      readAnswer(text);
    }),
    { seed: 9, numRuns: 500 },
  );
});
