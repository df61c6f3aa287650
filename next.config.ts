import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'piscina', 'sharp'],
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
