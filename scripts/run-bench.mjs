/** `npm run bench`, `npm run bench -- large` */
import { bin, ensureBuild, ensurePackages, run } from './bootstrap.mjs';

ensurePackages();
ensureBuild();
/** `-- large` measures a store of ten years alone. */
const [, , part] = process.argv;
run(bin('tsx'), [part === 'large' ? 'benchmarks/large.ts' : 'benchmarks/run.ts']);
