/** Before browser tests: what they start is built once, from the sources as they are. */

import { ensureBuild, ensurePackages } from '../../scripts/bootstrap.mjs';
import { ensureBundles } from '../../scripts/bundle.mjs';

export default async function setup(): Promise<void> {
  ensurePackages();
  await ensureBundles();
  ensureBuild();
}
