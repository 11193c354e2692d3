import type { NextConfig } from 'next';

const config: NextConfig = {
  // The test run builds beside the running application, never over it.
  distDir: process.env.RED_PLUMB_DIST ?? '.next',
  reactStrictMode: true,
  poweredByHeader: false,
  serverExternalPackages: ['@hyzyla/pdfium', 'pdfkit', 'pg', 'pino', 'piscina'],
  typescript: { ignoreBuildErrors: true }, // `npm test` runs tsc itself, over tests and scripts too
  experimental: { serverActions: { bodySizeLimit: '4mb' } },
  devIndicators: false,
};

export default config;
