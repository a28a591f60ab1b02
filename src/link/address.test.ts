import { addressText, parseAddress } from './address';

test.each([
  ['tcp:127.0.0.1:4000', { by: 'tcp', host: '127.0.0.1', port: 4000 }],
  ['tcp:heron.local:23', { by: 'tcp', host: 'heron.local', port: 23 }],
  ['tcp:[::1]:8080', { by: 'tcp', host: '::1', port: 8080 }],
  ['serial:/dev/ttyUSB0', { by: 'serial', path: '/dev/ttyUSB0' }],
  ['serial:/dev/ttyUSB0@250000', { by: 'serial', path: '/dev/ttyUSB0', speed: 250_000 }],
])('%s', (text, address) => {
  const parsed = parseAddress(text);
  expect(parsed).toEqual({ ok: true, value: address });
  if (parsed.ok) expect(addressText(parsed.value)).toBe(text);
});

test.each([
  'tcp:127.0.0.1',
  'tcp::80',
  'tcp:host:0',
  'tcp:host:99999',
  'serial:ttyUSB0',
  'serial:/dev/ttyUSB0@fast',
  'serial:/dev/ttyUSB0@5',
  'usb:1',
  '',
])('“%s” is refused with an example', (text) => {
  const parsed = parseAddress(text);
  expect(parsed).toMatchObject({ ok: false, problems: [{ where: 'address' }] });
  if (!parsed.ok) expect(parsed.problems[0]!.mend).toContain('tcp:HOST:PORT');
});
