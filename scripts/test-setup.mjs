/** Before tests: commands and processes that they start are bundled from the sources as they are. */

import { ensureBundles } from './bundle.mjs';

export default ensureBundles;
