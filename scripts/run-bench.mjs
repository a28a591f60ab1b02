/** `npm run bench` */
import { bin, ensureBuild, ensurePackages, run } from './bootstrap.mjs';

ensurePackages();
ensureBuild();
run(bin('tsx'), ['benchmarks/run.ts']);
