import { chromium } from 'playwright-core';
const [,, path, out, width = '1280', height = '800', theme = 'light', act = ''] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const c = await b.newContext({ viewport: { width: +width, height: +height }, colorScheme: theme });
const p = await c.newPage();
p.on('pageerror', (e) => console.log('PAGEERROR', e.message)); p.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text()));
await p.goto('http://127.0.0.1:8149/');
await p.fill('[name="_username"], [name="email"]', process.env.AS ?? 'oona@arrowmere.example'); await p.fill('[name="_password"], [name="password"]', process.env.PW ?? 'steward-oona'); await p.keyboard.press('Enter'); await p.waitForLoadState('networkidle');
await p.goto('http://127.0.0.1:8149' + path); await p.waitForLoadState('networkidle');
if (act) { await (new Function('p', `return (async () => { ${act} })()`))(p); await p.waitForTimeout(600); }
await p.screenshot({ path: out, fullPage: process.env.FULL === '1' });
console.log(p.url());
await b.close();
