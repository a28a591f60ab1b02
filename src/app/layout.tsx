import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/jetbrains-mono';
import './globals.css';
import type { Metadata, Viewport } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { RIGHTS } from '@/core/rights';
import { MayBeHot } from '@/ui/common/MayBeHot';
import { Connection } from '@/ui/common/Connection';
import { Rights } from '@/ui/common/Rights';
import { itIsOff } from './actions/link';
import { identityHere, now, store } from './server/store';
import { askingDevice, computerReader } from './server/who';
import { THEME_COOKIE, themeFrom } from '@/ui/common/theme';

export const metadata: Metadata = {
  title: { default: 'Ash Ladder', template: '%s · Ash Ladder' },
  description: 'Finds the numbers that make a 3D printer print well, one ladder at a time',
};

export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

/** Every page shows the user's own data as it stands now. */
export const dynamic = 'force-dynamic';

export default async function RootLayout({ children }: { children: ReactNode }) {
  const theme = themeFrom((await cookies()).get(THEME_COOKIE)?.value);
  const device = await askingDevice();
  const here = {
    device: device?.name ?? null,
    rights: device?.rights ?? RIGHTS,
    reader: device?.reader ?? computerReader(),
  };
  return (
    <html lang="en" data-theme={theme} data-store={identityHere()}>
      <head>
        {/* With the cookie: without it nobody is answered. */}
        <link rel="manifest" href="/manifest.webmanifest" crossOrigin="use-credentials" />
        <link rel="apple-touch-icon" href="/touch-icon" />
      </head>
      <body className="bg-base-100 text-base-content min-h-dvh">
        <Rights here={here}>
          <MayBeHot first={store().wires.owed()} nowMs={Date.parse(now())} isOff={itIsOff} />
          {children}
          <Connection device={device !== null} />
        </Rights>
      </body>
    </html>
  );
}
