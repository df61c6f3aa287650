import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'piscina', 'sharp'],
  poweredByHeader: false,
  // Whoever stands before the server compresses.
  compress: false,
  skipTrailingSlashRedirect: true,
  devIndicators: false,
  reactCompiler: true,
  // Nothing is scaled for whoever asks: the workbench has no pictures of its own that need it.
  images: { unoptimized: true },
};

export default config;
