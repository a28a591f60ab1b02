/** The files that the program reads and writes, each with its schema. */

import { z } from 'zod';
import { Bench } from './bench/bench';
import { Plan } from './plan/plan';
import { Reading } from './reading/types';

export const SCHEMAS = { bench: Bench, plan: Plan, reading: Reading } as const;

/** JSON Schema of a format as it stands in docs/schema; what a schema cannot say is checked in code. */
export const schemaText = (name: keyof typeof SCHEMAS): string =>
  `${JSON.stringify(z.toJSONSchema(SCHEMAS[name], { unrepresentable: 'any', io: 'input' }), null, 2)}\n`;
