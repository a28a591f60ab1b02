import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/jetbrains-mono';
import './globals.css';
import type { Metadata, Viewport } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { Connection } from '@/ui/common/Connection';
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
  return (
    <html lang="en" data-theme={theme}>
      <body className="bg-base-100 text-base-content min-h-dvh">
        {children}
        <Connection />
      </body>
    </html>
  );
}
