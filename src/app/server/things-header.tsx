/** The header of every page about spools and machines. */

import { Header } from '@/ui/common/Header';
import { mainWays } from './ways';

export const ThingsHeader = () => (
  <Header title="Ash Ladder" titleHref="/" ways={mainWays('things')} />
);
