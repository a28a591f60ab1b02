/** The header of every page about spools and machines. */

import { Header } from '@/ui/common/Header';

export const ThingsHeader = () => (
  <Header
    title="Ash Ladder"
    titleHref="/"
    ways={[
      { href: '/', label: 'Bench' },
      { href: '/things', label: 'Spools and machines', here: true },
    ]}
  />
);
