import { gainsIn, gainsLine, sameGains, tunedGains, tuneLine } from './gains';

test.each([
  [['echo:  M301 P22.20 I1.08 D114.00'], { p: 22.2, i: 1.08, d: 114 }],
  [['M301 P1 I2 D3', 'echo: M301 P22.2 I1.08 D114 C100'], { p: 22.2, i: 1.08, d: 114 }],
  [['echo: M304 P80 I1 D20', 'ok'], null],
  [[], null],
])('a report %j says %j', (report, gains) => {
  expect(gainsIn(report)).toEqual(gains);
});

test.each([
  [['Kp: 21.50 Ki: 1.20 Kd: 96.10'], { p: 21.5, i: 1.2, d: 96.1 }],
  [
    ['bias: 92 d: 92', 'Kp: 1 Ki: 1 Kd: 1', ' Kp: 20.1', ' Ki: 1.3', ' Kd: 77'],
    { p: 20.1, i: 1.3, d: 77 },
  ],
  [['// PID parameters: pid_Kp=24.1 pid_Ki=1.4 pid_Kd=101.5'], { p: 24.1, i: 1.4, d: 101.5 }],
  [['#define DEFAULT_Kp 20', 'Kp: 20'], null],
])('tuning that said %j has found %j', (said, gains) => {
  expect(tunedGains(said)).toEqual(gains);
});

test('what is written reads back as the same', () => {
  const gains = { p: 21.456, i: 1.2, d: 96.1 };
  expect(sameGains(gainsIn([gainsLine(gains, 'AB')!])!, gains)).toBe(true);
  expect(sameGains(gains, { ...gains, i: 1.3 })).toBe(false);
  expect(gainsLine(gains, 'D')).toBeNull();
  expect(tuneLine(210, 'AB')).toBe('M303 E0 S210 C8');
  expect(tuneLine(210, 'D')).toBe('PID_CALIBRATE HEATER=extruder TARGET=210');
});
