// Run by bench/DiagramBench.php: times in Chromium, as JSON in ms. Usage: node board.mjs BASE SOURCE
import { chromium } from '@playwright/test';

const [base, source] = process.argv.slice(2);
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${base}/sign-in`);
await page.getByLabel('E-mail').fill('bench@example.org');
await page.getByLabel('Password').fill('bench-password');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.waitForURL(/register/);
const took = {};

// The map: until its regions are painted, then until the names in one are.
const painted = () => page.evaluate(() => new Promise((done) => { requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now()))); }));
const sights = [];
for (let i = 0; i < 4; i += 1) {
    await page.goto(`${base}/diagrams/map/${source}`, { waitUntil: 'commit' });
    await page.waitForSelector('.region');
    sights.push(await painted());
}
took.sight = sights.sort((a, b) => a - b)[1];
took.into = await page.evaluate(async () => {
    const { map } = document.querySelector('main');
    const times = [];
    for (let i = 0; i < 7; i += 1) {
        map.camera.fit();
        await new Promise((done) => { requestAnimationFrame(() => requestAnimationFrame(done)); });
        const began = performance.now();
        map.into(i);
        await new Promise((done) => { requestAnimationFrame(() => requestAnimationFrame(done)); });
        times.push(performance.now() - began);
    }
    return times.sort((a, b) => a - b)[3];
});

// A diagram of 200 tablets, one of which is dragged.
const ids = await page.evaluate(() => Object.keys(document.querySelector('main').map.state.tablets).slice(0, 200));
await page.goto(`${base}/diagrams/new?entries=${ids.join(',')}`);
await page.getByLabel('Name', { exact: true }).fill(`Bench ${Date.now()}`);
await page.getByRole('button', { name: 'Make it' }).click();
await page.waitForSelector('[data-board] .tablet');
const busiest = await page.evaluate(() => {
    const { board } = document.querySelector('main');
    const [key] = [...board.linesOf.entries()].sort(([, a], [, b]) => b.length - a.length)[0];
    board.choose([key]);
    board.camera.fit({ ...board.rect(key), x: board.rect(key).x - 500, y: board.rect(key).y - 300, width: 1200, height: 800 });
    window.spent = [];
    window.late = [];
    const drag = board.drag.bind(board);
    window.removeEventListener('pointermove', board.drag);
    board.drag = (event) => {
        if (!board.held) { return; }
        const began = performance.now();
        drag(event);
        window.spent.push(performance.now() - began);
        let frames = 0;
        const frame = () => { frames += 1; window.late.push(frames); };
        requestAnimationFrame(frame);
        const next = performance.now();
        requestAnimationFrame(() => { window.gaps = [...(window.gaps ?? []), performance.now() - next]; });
    };
    return key;
});
const box = await page.locator(`.tablet[data-entry="${busiest.slice(1)}"] .title`).boundingBox();
await page.mouse.move(box.x + 5, box.y + 5);
await page.mouse.down();
for (let i = 1; i <= 120; i += 1) {
    await page.mouse.move(box.x + 5 + 2 * i, box.y + 5 + i);
}
await page.mouse.up();
const { spent, gaps } = await page.evaluate(() => ({ spent: window.spent.slice(1), gaps: window.gaps.slice(1) }));
const sorted = [...spent].sort((a, b) => a - b);
took.script = sorted[Math.floor(0.95 * sorted.length)];
// A frame takes 16.7 ms: what was shown within one came in the next, within two in the one after.
took.next = 100 * gaps.filter((gap) => gap <= 17.5).length / gaps.length;
took.after = 100 * gaps.filter((gap) => gap <= 34.5).length / gaps.length;
await browser.close();
console.log(JSON.stringify(took));
