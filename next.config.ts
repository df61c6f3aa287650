import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'piscina', 'sharp'],
  poweredByHeader: false,
  // Pages of the shop go out as they are made; whoever stands before the server compresses.
  compress: false,
  skipTrailingSlashRedirect: true,
  devIndicators: false,
  reactCompiler: true,
  async headers() {
    return [
      {
        source: '/((?!live|draft|media|player).*)',
        headers: [
          { key: 'X-Frame-Options', value: 'DENY' },
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'same-origin' },
        ],
      },
    ];
  },
};

export default config;
