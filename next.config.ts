import type { NextConfig } from 'next';

const config: NextConfig = {
  // What a release needs is gathered in .next/standalone.
  output: 'standalone',
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // Types are a step of their own in `npm test`.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['better-sqlite3', 'piscina', 'heic-decode'],
  // The folder above may hold other projects; nothing there is ours.
  turbopack: { root: import.meta.dirname },
  outputFileTracingRoot: import.meta.dirname,
  // Where files were inspected before; tabs and notes may still say so.
  redirects: async () => [{ source: '/through', destination: '/inspect', permanent: true }],
};

export default config;
