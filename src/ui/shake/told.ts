/** Numbers of the shake page as they are said. */

import { short } from '@/core/numbers';

/** Accelerations are told in steps that a machine is set in, mm/s², on the safe side. */
const TOLD = 50;
export const safely = (value: number): string => short(Math.floor(value / TOLD + 1e-9) * TOLD);
