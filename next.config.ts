import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'piscina', 'sharp'],
  // The first screen that is opened is read first; the others when they are opened.
  experimental: { preloadEntriesOnStart: false },
  poweredByHeader: false,
  // A front server compresses, if there is one.
  compress: false,
  skipTrailingSlashRedirect: true,
  devIndicators: false,
  reactCompiler: true,
  // Turns off Next's image endpoint: the workbench needs no scaled pictures.
  images: { unoptimized: true },
  // npm test checks types, once for all.
  typescript: { ignoreBuildErrors: true },
};

export default config;
