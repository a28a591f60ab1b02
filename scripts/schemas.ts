/** Writes the JSON Schema of every file format into docs/schema. */

import { mkdirSync, writeFileSync } from 'node:fs';
import { SCHEMAS, schemaText } from '../src/core/formats';

mkdirSync('docs/schema', { recursive: true });
for (const name of Object.keys(SCHEMAS) as (keyof typeof SCHEMAS)[])
  writeFileSync(`docs/schema/${name}.schema.json`, schemaText(name));
