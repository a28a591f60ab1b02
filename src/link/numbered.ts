import { checksum } from '../core/gcode/read';

/** A line as it goes out: numbered, with the sum of its signs. */
export function numbered(number: number, command: string): string {
  const body = `N${number} ${command}`;
  return `${body}*${checksum(body)}\n`;
}
