'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { Right } from '@/core/rights';
import { fail, problem } from '@/core/result';
import { plainName } from '@/core/text';
import type { Lan } from '@/lan/lan';
import { store } from '../server/store';
import { lan, refusedOffComputer } from '../server/who';
import { done, gone, idIn, type Answer } from './answer';

const LONGEST_NAME = 40;

/** Runs an act on the door of phones, at the computer alone. */
async function atTheDoor(act: (door: Lan) => Answer | Promise<Answer>): Promise<Answer> {
  const refused = await refusedOffComputer();
  if (refused) return refused;
  const door = lan();
  if (!door)
    return fail(
      problem('phones', 'This server has no door for phones.', 'Start it with npm start.'),
    );
  const answer = await act(door);
  revalidatePath('/phones');
  return answer;
}

/** Opens or closes the door of phones, also for the next start. */
export async function switchPhones(on: unknown): Promise<Answer> {
  return atTheDoor(async (door) => {
    await (on === true ? door.switchOn(true) : door.switchOff());
    return done;
  });
}

/** A new code, for two minutes. */
export async function showCode(): Promise<Answer> {
  return atTheDoor((door) => {
    const offered = door.offer();
    return offered.ok ? done : offered;
  });
}

export async function hideCode(): Promise<Answer> {
  return atTheDoor((door) => {
    door.withdraw();
    return done;
  });
}

export async function putOutDevice(id: unknown): Promise<Answer> {
  return atTheDoor((door) => (door.putOut(idIn(id)) ? done : gone('device')));
}

export async function allowDevice(id: unknown, rights: unknown): Promise<Answer> {
  const parsed = z.array(Right).max(10).safeParse(rights);
  return atTheDoor((door) =>
    parsed.success && door.allow(idIn(id), parsed.data) ? done : gone('device'),
  );
}

/** Who scores at the computer. */
export async function nameReader(name: unknown): Promise<Answer> {
  const refused = await refusedOffComputer();
  if (refused) return refused;
  const reader = plainName(String(name).slice(0, LONGEST_NAME));
  if (reader === '') return fail(problem('reader', 'No name was entered.', 'Type one.'));
  store().own.set('reader', reader);
  revalidatePath('/', 'layout');
  return done;
}
