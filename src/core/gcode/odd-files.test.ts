// Small hostile or odd files, each with what must be found in it.
import { benchFor } from '../testing';
import { audit } from './audit';
import { readBytes, readText } from './read';

const bench = benchFor();
const codes = (text: string) =>
  audit(readText(text), bench).findings.map(({ grade, code, line }) => `${grade} ${code} ${line}`);
const HOT = 'G28\nG90\nM83\nM109 S205\n';
const OFF = '\nM104 S0\nM140 S0\nM107\n';

describe('odd files', () => {
  test('an empty file is said to be empty, and nothing else of it', () => {
    const result = audit(readText(''), bench);
    expect(result).toMatchObject({ box: null, z: null, filament: 0 });
    expect(result.findings.map(({ code }) => code)).toEqual(['empty']);
  });

  test('bytes that are no text are counted as unknown and harm nothing', () => {
    const noise = Uint8Array.from({ length: 4096 }, (_, i) => (i * 193) & 0xff);
    const trace = readBytes(noise);
    expect(trace.moves.count).toBe(0);
    expect(trace.bytes).toBe(4096);
  });

  test('the last line counts without a line end', () => {
    expect(codes(`${HOT}G1 X300 E1 F1000`)).toContain('stop prints-off-bed 5');
  });

  test('carriage returns, tabs and blank lines change nothing', () => {
    const plain = `${HOT}G1 X50 Y50 Z0.2 F3000\nG1 X80 E2 F1200${OFF}`;
    const odd = plain.replaceAll('\n', '\r\n\r\n').replaceAll(' ', '\t ');
    expect(codes(odd)).toEqual([]);
    expect(readText(odd).moves.count).toBe(readText(plain).moves.count);
  });

  test('a picture in comments, a hundred thousand characters long, is passed by', () => {
    const picture = Array.from({ length: 1300 }, () => `; ${'iVBORw0KGgo'.repeat(7)}`).join('\n');
    expect(codes(`${picture}\n${HOT}G1 X50 E1 F1000${OFF}`)).toEqual([]);
  });

  test('inches that leave the bed are found in millimetres', () => {
    expect(codes(`${HOT}G20\nG1 X9 E0.1 F100\nG21${OFF}`)).toEqual(['stop prints-off-bed 6']);
  });

  test('a second tool that was never heated extrudes cold', () => {
    expect(codes(`${HOT}T1\nG1 X50 E1 F1000${OFF}`)).toContain('stop cold-extrusion 6');
  });

  test('an origin that was shifted does not hide where the nozzle goes', () => {
    expect(codes(`${HOT}G1 X200 F3000\nG92 X0\nG1 X50 E1 F1000${OFF}`)).toContain(
      'stop prints-off-bed 7',
    );
  });

  test('a relative move below the bed is found where it happens', () => {
    expect(codes(`${HOT}G1 Z0.3 F600\nG91\nG1 Z-0.5\nG90${OFF}`)).toEqual(['stop below-bed 7']);
  });

  test('one fault a thousand times over is one finding with its count', () => {
    const body = Array.from({ length: 1000 }, (_, i) => `G1 X${230 + (i % 2)} E0.1 F900`);
    const { findings } = audit(readText(`${HOT}${body.join('\n')}${OFF}`), bench);
    expect(findings.map(({ code, count }) => [code, count])).toEqual([['prints-off-bed', 1000]]);
  });

  test('a start that homes only x and y may not move z', () => {
    expect(codes(`G28 X Y\nM109 S205\nG1 X20 Y20 F3000\nG1 Z30 F600${OFF}`)).toEqual([
      'stop moves-before-homing 4',
    ]);
  });

  test('a heater of the other nozzle is found left on', () => {
    expect(codes(`${HOT}M104 T1 S180${OFF}`)).toEqual(['stop heater-on-nozzle-1 5']);
  });

  test('a carried plan that is cut short is no plan, and the file is audited all the same', () => {
    const trace = readText(`${HOT}${OFF};@plan {"format":"ash-ladder/pl`);
    expect(trace.planText).toBe('{"format":"ash-ladder/pl');
    expect(audit(trace, bench).findings).toEqual([]);
  });
});

test('what is no G-code at all is said once, instead of a list of its odd lines', () => {
  const picture = Uint8Array.from({ length: 3000 }, (_, i) => (i * 193 + 7) & 0xff);
  for (const trace of [readBytes(picture), readText('Dear puppet makers,\nthe show is off.\n')])
    expect(audit(trace, bench).findings.map(({ grade, code }) => `${grade} ${code}`)).toEqual([
      'stop not-gcode',
    ]);
});
