import { defineConfig } from '@playwright/test';

export default defineConfig({
    testDir: 'tests/e2e',
    workers: 1,
    fullyParallel: false,
    // All of them use one application, one after the other: what they leave in it decides their order, not their names.
    projects: [
        { name: 'units', testMatch: 'units.spec.mjs' },
        // The demo as it comes; each adds what it needs.
        { name: 'demo', testMatch: ['board', 'designs', 'joins', 'kinds', 'models', 'pages'].map((name) => `${name}.spec.mjs`) },
        // A second source is surveyed, described and published,
        { name: 'path', testMatch: 'path.spec.mjs', dependencies: ['demo'] },
        // read and written on,
        { name: 'register', testMatch: ['queries', 'valid', 'writing'].map((name) => `${name}.spec.mjs`), dependencies: ['path'] },
        // and described to the last field. Then the demo's source changes, and a source of sixty joins makes all else slower.
        { name: 'desk', testMatch: 'desk.spec.mjs', dependencies: ['register'] },
        { name: 'change', testMatch: ['year.spec.mjs', 'review.spec.mjs'], dependencies: ['desk'] },
    ],
    retries: 0,
    timeout: 180000,
    expect: { timeout: 20000 },
    reporter: [['list']],
    outputDir: 'var/e2e/results',
    use: {
        baseURL: process.env.BASE_URL ?? 'http://127.0.0.1:8149',
        viewport: { width: 1280, height: 800 },
        trace: 'off',
        screenshot: 'only-on-failure',
        launchOptions: {
            executablePath: '/usr/bin/chromium',
            args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run',
                '--disable-background-networking', '--disable-component-update', '--disable-sync'],
        },
    },
});
