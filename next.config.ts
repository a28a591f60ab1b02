import type { NextConfig } from 'next';

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // Types are a step of their own in `npm test`.
  typescript: { ignoreBuildErrors: true },
  // Files of the user's own are kept whole; see LARGEST_OPENED.
  experimental: { proxyClientMaxBodySize: '201mb' },
  serverExternalPackages: ['better-sqlite3'],
  // The folder above may hold other projects; nothing there is ours.
  turbopack: { root: import.meta.dirname },
  outputFileTracingRoot: import.meta.dirname,
};

export default config;
