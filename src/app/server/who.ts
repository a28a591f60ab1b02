/** Who asks: somebody at the computer, or a device that was let in, and what it may do. */

import 'server-only';
import { headers } from 'next/headers';
import { mayNot, RIGHTS, type Right } from '@/core/rights';
import { fail, problem, type Failed } from '@/core/result';
import type { Lan } from '@/lan/lan';
import type { Device } from '@/store/devices';
import { store } from './store';

// The door of phones runs in this process and is found here; only without a door there is none.
export const lan = (): Lan | undefined => (globalThis as { ashLan?: Lan }).ashLan;

/** Where phones find this computer, the likeliest first. */
export const phoneHosts = (): string[] =>
  lan()
    ?.state()
    .at.map(({ host }) => host) ?? [];

/** The device that asks; null for the computer itself. */
export async function askingDevice(): Promise<Device | null> {
  const door = lan();
  return door?.device((await headers()).get(door.deviceHeader)) ?? null;
}

/** All rights at the computer; on a device, those that it was given. */
export async function rightsHere(): Promise<readonly Right[]> {
  return (await askingDevice())?.rights ?? RIGHTS;
}

/** A refusal in words where the device that asks may not do this. */
export async function refusedTo(right: Right): Promise<Failed | null> {
  return (await rightsHere()).includes(right) ? null : fail(mayNot(right));
}

/** A refusal in words for devices, whatever they may do: some things are done at the computer alone. */
export async function refusedOffComputer(): Promise<Failed | null> {
  if ((await askingDevice()) === null) return null;
  return fail(problem('device', 'Who is let in is decided at the computer.', 'Open Phones there.'));
}

/** Whose scores come from where somebody asks: told when the device was let in, or once at the computer. */
export async function readerHere(): Promise<string> {
  return (await askingDevice())?.reader ?? computerReader();
}

/** Whose a reading is: somebody's by name, or that of whoever scores at the computer. */
export const ownerOf = ({ reader }: { reader: string }): string => reader || computerReader();

/** Whether two names mean the same person. */
export const sameName = (a: string, b: string): boolean =>
  a.localeCompare(b, 'en', { sensitivity: 'base' }) === 0;

/** Who scores at the computer; empty until somebody said so. */
export const computerReader = (): string => store().own.get('reader') ?? '';
