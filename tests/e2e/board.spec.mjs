// Diagrams that people make, keep and come back to.
import { expect, test } from './listening.mjs';
import { accessible, atWork, complaints, fits, signIn } from './help.mjs';

const tablet = (page, name) => page.locator('svg .tablet').filter({ has: page.locator('.title', { hasText: new RegExp(`^${name}$`) }) });
const chosen = (page, name) => tablet(page, name).and(page.locator('.chosen'));
const saved = (page) => expect(page.locator('.foot .saved')).toHaveText('Saved');
const state = (page, what) => page.evaluate((name) => JSON.parse(JSON.stringify(document.querySelector('main').board[name])), what);
const place = async (page, name) => {
    const [titles, scene] = [await state(page, 'titles'), await state(page, 'scene')];
    return scene.pieces[Object.keys(titles).find((key) => titles[key] === name)];
};

async function drag(page, name, dx, dy) {
    const box = await tablet(page, name).locator('.title').boundingBox();
    await page.mouse.move(box.x + 8, box.y + 8);
    await page.mouse.down();
    await page.mouse.move(box.x + 8 + dx, box.y + 8 + dy, { steps: 6 });
    await page.mouse.up();
}

/** Nothing that a line must not do, told from what is drawn. */
async function drawnByTheRules(page) {
    expect(await page.evaluate(() => {
        const { scene, ways } = document.querySelector('main').board;
        const faults = [];
        for (const [id, points] of Object.entries(ways)) {
            points.slice(1).forEach(([x2, y2], i) => {
                const [x1, y1] = points[i];
                for (const [key, [x, y, w, h]] of Object.entries(scene.pieces)) {
                    if (Math.min(x1, x2) < x + w - 0.5 && Math.max(x1, x2) > x + 0.5 && Math.min(y1, y2) < y + h - 0.5 && Math.max(y1, y2) > y + 0.5) {
                        faults.push(`line ${id} runs through ${key}`);
                    }
                }
            });
        }
        return faults;
    })).toEqual([]);
}

async function made(page, name, entries) {
    await page.goto('/register?source=1&q=');
    const ids = [];
    for (const entry of entries) {
        await page.goto(`/register?source=1&schema=fieldwork&q=${entry}`);
        ids.push((await page.getByRole('link', { name: entry, exact: true }).getAttribute('href')).split('/').pop());
    }
    await page.goto(`/diagrams/new?entries=${ids.join(',')}`);
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByLabel('What it is for, in a sentence').fill('To try what can be done');
    await page.getByRole('button', { name: 'Make it' }).click();
    await expect(page.locator('svg .tablet')).toHaveCount(entries.length);
}

test('one is made from a choice, worked on, undone and done again, and comes back as it was', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await made(page, 'Stations at work', ['station', 'reading', 'reach']);
    const wrote = () => page.waitForResponse((response) => response.url().includes('/changes') && response.request().method() === 'POST');

    const before = await place(page, 'Station');
    let writing = wrote();
    await drag(page, 'Station', 180, 140);
    await writing;
    await saved(page);
    const moved = await place(page, 'Station');
    expect(moved[1]).toBeGreaterThan(before[1] + 50);
    await drawnByTheRules(page);

    await page.keyboard.press('o');
    await expect(page.getByRole('heading', { name: 'Out of the picture from Station' })).toBeVisible();
    await page.getByRole('complementary', { name: 'Margin' }).getByRole('button', { name: 'Deployment', exact: true }).click();
    await expect(tablet(page, 'Deployment')).toHaveCount(1);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');

    await page.keyboard.press('t');
    await page.getByLabel('Note, in Markdown').fill('Only what is *open*');
    await page.keyboard.press('Control+Enter');
    await expect(page.locator('svg .of-note')).toContainText('Only what is open');
    await page.keyboard.press('Escape');
    await page.keyboard.press('h');
    await page.getByLabel('Heading', { exact: true }).fill('Where it is measured');
    await page.keyboard.press('Enter');
    await expect(page.locator('svg .heading')).toHaveText('Where it is measured');

    await page.keyboard.press('Escape');
    await tablet(page, 'Station').locator('.title').click();
    await tablet(page, 'Reading').locator('.title').click({ modifiers: ['Shift'] });
    await page.keyboard.press('s');
    writing = wrote();
    await page.getByRole('button', { name: 'Left edges' }).click();
    await writing;
    expect((await place(page, 'Station'))[0]).toBe((await place(page, 'Reading'))[0]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('r');
    await page.getByLabel('Title of the frame').fill('Measured');
    await page.keyboard.press('Enter');
    await expect(page.locator('svg .of-frame .name')).toHaveText('Measured');

    await page.keyboard.press('Escape');
    await tablet(page, 'Reach').locator('.title').click();
    await page.keyboard.press('z');
    await expect(tablet(page, 'Reach').locator('.row')).toHaveCount(0);
    await page.getByRole('button', { name: 'All fields' }).click();
    await expect(tablet(page, 'Station')).toContainText('text of 6 characters');
    await drawnByTheRules(page);

    await saved(page);
    const all = await state(page, 'pieces');
    const steps = (await page.evaluate(() => document.querySelector('main').board.edits.steps.length));
    for (let i = 0; i < steps; i += 1) {
        writing = wrote();
        await page.keyboard.press('Control+z');
        await writing;
    }
    await expect(page.locator('svg .note')).toHaveCount(0);
    await expect(tablet(page, 'Deployment')).toHaveCount(0);
    // What the last key asked for may still be on its way.
    await expect.poll(async () => (await place(page, 'Station')).slice(0, 2)).toEqual(before.slice(0, 2));
    for (let i = 0; i < steps; i += 1) {
        writing = wrote();
        await page.keyboard.press('Control+Shift+z');
        await writing;
    }
    await expect.poll(() => state(page, 'pieces')).toEqual(all);

    const ways = await state(page, 'ways');
    await page.reload();
    await expect(tablet(page, 'Deployment')).toHaveCount(1);
    expect(await state(page, 'pieces')).toEqual(all);
    expect(Object.keys(await state(page, 'ways'))).toEqual(Object.keys(ways));
    await accessible(page);
    await fits(page);

    await page.goto('/diagrams?q=at+work');
    await page.getByRole('link', { name: 'Stations at work' }).click();
    await expect(page.locator('[data-board] .tablet')).toHaveCount(4);
    await page.keyboard.press('i');
    await page.getByRole('link', { name: 'History' }).click();
    await expect(page.locator('.history tbody tr')).toHaveCount(2);
    await expect(page.locator('.history')).toContainText('1 frame added');
    expect(heard).toEqual([]);
});

test('only what is new is arranged, what is set down on another moves beside it, and files are of the format', async ({ page }) => {
    await signIn(page);
    await made(page, 'Arranged by hand', ['visit', 'team']);
    await drag(page, 'Visit', -160, 120);
    await saved(page);
    const mine = await place(page, 'Visit');
    await page.keyboard.press('Escape');
    await page.keyboard.press('a');
    await page.getByLabel('Name of an entry or a field').fill('sample');
    const row = page.locator('.board-margin [data-add]').filter({ hasText: /^sample$/i });
    await row.dragTo(page.locator('[data-board]'), { targetPosition: { x: 300, y: 500 } });
    await expect(tablet(page, 'Sample')).toHaveCount(1);
    await page.keyboard.press('Escape');
    await page.keyboard.press('w');
    await page.getByRole('button', { name: 'Only what is new' }).click();
    await expect(page.locator('.foot .saved')).toHaveText(/arranged|stands where/);
    expect((await place(page, 'Visit')).slice(0, 2)).toEqual(mine.slice(0, 2));

    await page.keyboard.press('f');
    const [from, to] = [await tablet(page, 'Team').locator('.title').boundingBox(), await tablet(page, 'Visit').locator('.title').boundingBox()];
    await drag(page, 'Team', to.x - from.x, to.y - from.y);
    await saved(page);
    const [a, b] = [await place(page, 'Team'), await place(page, 'Visit')];
    expect(a[0] + a[2] <= b[0] || b[0] + b[2] <= a[0] || a[1] + a[3] <= b[1] || b[1] + b[3] <= a[1]).toBe(true);
    await drawnByTheRules(page);

    // The subject areas of its entries, as frames.
    await page.evaluate(async () => {
        const { board } = document.querySelector('main');
        const headers = { 'Content-Type': 'application/json', 'X-Csrf-Token': document.querySelector('meta[name="texts-token"]').content };
        for (const key of Object.keys(board.titles)) {
            const body = { topic: 'entry', id: Number(key.slice(1)), property: 'area', base: '', value: 'Days out', sitting: 'x' };
            await fetch('/texts', { method: 'POST', headers, body: JSON.stringify(body) });
        }
    });
    await page.reload();
    await expect(page.locator('svg .tablet')).toHaveCount(3);
    await page.keyboard.press('w');
    await page.getByRole('button', { name: 'Frame the subject areas' }).click();
    await expect(page.locator('svg .of-frame .name', { hasText: 'Days out' })).toBeVisible();
    await saved(page);
    await drawnByTheRules(page);

    await page.keyboard.press('Escape');
    for (const [name, start] of [['SVG', '<svg'], ['Take it', '\x89PNG'], ['A3', '%PDF']]) {
        await page.keyboard.press('x');
        const download = page.waitForEvent('download');
        await page.locator('.board-margin').getByText(name, { exact: true }).click();
        const stream = await (await download).createReadStream();
        const [chunk] = await stream.take(1).toArray();
        expect(chunk.toString('latin1').slice(0, 4)).toBe(start.slice(0, 4));
        await page.keyboard.press('Escape');
    }
});

test('two work on one diagram: moves are merged, the later one wins, and each undoes only their own', async ({ page, browser }) => {
    await signIn(page);
    await made(page, 'For two', ['landowner', 'access_permit']);
    const other = await (await browser.newContext()).newPage();
    await signIn(other, 'ren');
    await other.goto(page.url());
    await expect(other.locator('svg .tablet')).toHaveCount(2);

    await drag(other, 'Landowner', 0, 150);
    await saved(other);
    await expect(page.locator('.foot .saved')).toHaveText('Ren Abara changed Landowner.');
    expect((await place(page, 'Landowner')).slice(0, 2)).toEqual((await place(other, 'Landowner')).slice(0, 2));
    await drag(page, 'Access permit', 0, 90);
    await saved(page);
    await drag(page, 'Landowner', 0, 60);
    await saved(page);
    await expect(other.locator('.foot .saved')).toHaveText(/Oona Lisk changed .*Landowner/);

    await other.keyboard.press('Control+z');
    await expect(other.locator('.foot .saved')).toHaveText('1 piece that somebody else has changed since stayed.');
    const hers = await place(page, 'Landowner');
    expect((await place(other, 'Landowner')).slice(0, 2)).toEqual(hers.slice(0, 2));
    await other.context().close();
});

test('what cannot be saved is kept in the browser and sent when it can', async ({ page }) => {
    await signIn(page);
    await made(page, 'Offline', ['barrier', 'barrier_survey']);
    await page.route('**/changes', (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()));
    await drag(page, 'Barrier', 0, 130);
    await expect(page.locator('.foot .saved')).toContainText('is kept in this browser');
    const here = await place(page, 'Barrier');
    await page.unroute('**/changes');
    await page.reload();
    await expect.poll(async () => (await place(page, 'Barrier')).slice(0, 2)).toEqual(here.slice(0, 2));
});

test('a join is told, a query comes of the picture, and all of it by keyboard alone', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/diagrams');
    await page.getByRole('link', { name: 'From a reading to its catchment' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('svg .tablet')).toHaveCount(9);
    await page.keyboard.press('.');
    await page.keyboard.type('station');
    await page.keyboard.press('Enter');
    await expect(chosen(page, 'Station')).toHaveCount(1);
    await expect(page.locator('[data-aloud]')).toHaveText(/Station, 3 joins in the picture/);
    await page.keyboard.press('l');
    const margin = page.getByRole('complementary', { name: 'Margin' });
    await expect(margin).toContainText(/station/i);
    await expect(page.locator('svg.pointed .line.near')).toHaveCount(1);
    await expect(margin.getByRole('link', { name: 'The page of this join' })).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+a');
    await page.keyboard.press('q');
    await expect(margin.locator('pre')).toContainText('FROM `fieldwork`.`reading`');
    await expect(margin).toContainText('Reach also refers to itself');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');

    await page.keyboard.press('j');
    const before = await state(page, 'pieces');
    const [key] = await page.evaluate(() => [...document.querySelector('main').board.chosen]);
    const wrote = page.waitForResponse((response) => response.url().includes('/changes') && response.request().method() === 'POST');
    await page.keyboard.press('Shift+ArrowUp');
    await page.keyboard.press('ArrowLeft');
    await wrote;
    expect((await state(page, 'pieces'))[key].y).toBe(before[key].y - 50);
    expect((await state(page, 'pieces'))[key].x).toBe(before[key].x - 10);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await state(page, 'pieces'))[key].y).toBe(before[key].y);

    await page.keyboard.press('Escape');
    await page.keyboard.press('a');
    await page.keyboard.type('calibration');
    await expect(page.locator('.board-margin [data-add]').first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(chosen(page, 'Calibration')).toHaveCount(1);
    await page.keyboard.press('Escape');
    await page.keyboard.press('d');
    await page.getByRole('radio', { name: 'All fields' }).focus();
    await page.keyboard.press('Space');
    await expect(tablet(page, 'Calibration').locator('.row')).not.toHaveCount(2);
    await page.keyboard.press('Escape');
    await page.keyboard.press('z');
    await expect(tablet(page, 'Calibration').locator('.row')).toHaveCount(0);
    await page.keyboard.press('Delete');
    await expect(tablet(page, 'Calibration')).toHaveCount(0);
    await expect(page.locator('.foot .saved')).toContainText('removed from the picture; the register has all of it as before');

    await page.locator('svg .line[data-join]').first().dispatchEvent('click');
    await expect(margin.getByRole('link', { name: 'The page of this join' })).toBeVisible();
    await accessible(page);
    await margin.getByRole('link', { name: 'The page of this join' }).click();
    await expect(page.locator('.facts')).toContainText('the diagram “From a reading to its catchment”');
    expect(heard).toEqual([]);
});

test('on 200 tablets what is dragged goes with the pointer, frame by frame, and nothing else does', async ({ page }) => {
    await signIn(page);
    await page.goto('/sources/new');
    await page.getByLabel('Name').fill('two hundred');
    await page.getByRole('radio', { name: 'Files', exact: true }).check({ force: true });
    const table = (i) => `CREATE TABLE t${i} (id int PRIMARY KEY, a int${i > 0 ? ` REFERENCES t${Math.floor((i - 1) / 3)} (id)` : ''}, b int);`;
    const script = Array.from({ length: 200 }, (_, i) => table(i)).join('\n');
    await page.getByLabel('Hand in').setInputFiles({ name: 'many.sql', mimeType: 'text/plain', buffer: Buffer.from(script) });
    await page.getByRole('button', { name: 'Save and choose what to read' }).click();
    await page.getByRole('button', { name: 'Keep this choice and survey' }).click();
    await expect(page.locator('.told').first()).toContainText('200 tables');
    await page.goto('/diagrams');
    await page.getByRole('row', { name: /a schema of two hundred/ }).getByRole('link').click();
    await expect(page.locator('svg .tablet')).toHaveCount(200);
    await page.keyboard.press('k');
    await expect(page.locator('[data-board] .tablet')).toHaveCount(200);
    await page.keyboard.press('.');
    await page.keyboard.type('T1');
    await page.keyboard.press('Enter');
    await page.keyboard.press('+');
    await page.keyboard.press('+');

    const chosen = page.locator('svg .tablet.chosen');
    const still = page.locator('svg .tablet:not(.chosen)').first();
    const box = await chosen.locator('.title').boundingBox();
    const [from, other] = [await chosen.boundingBox(), await still.boundingBox()];
    await page.mouse.move(box.x + 5, box.y + 5);
    await page.mouse.down();
    for (let i = 1; i <= 60; i += 1) {
        await page.mouse.move(box.x + 5 + 3 * i, box.y + 5 + 2 * i);
        if (i % 20 === 0) {
            const off = async () => {
                const now = await chosen.boundingBox();
                return Math.max(Math.abs(now.x - from.x - 3 * i), Math.abs(now.y - from.y - 2 * i));
            };
            await expect.poll(off).toBeLessThanOrEqual(10);
        }
    }
    expect(await still.boundingBox()).toEqual(other);
    // Set down on another, it moves beside that one.
    await page.mouse.up();
    expect(await still.boundingBox()).toEqual(other);
    await saved(page);
});

test('two thousand tables open as a map, into which one goes', async ({ page }) => {
    test.setTimeout(300000);
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/sources/new');
    await page.getByLabel('Name').fill('vast');
    await page.getByRole('radio', { name: 'Files', exact: true }).check({ force: true });
    const name = (i) => `${['weir', 'gauge', 'pump', 'lock', 'mill'][Math.floor(i / 40) % 5]}_${i}`;
    const up = (i) => (i % 40 > 0 ? `, up_id int REFERENCES ${name(i - 1 - (i * 7) % Math.min(3, i % 40))} (id)` : '');
    const script = Array.from({ length: 2000 }, (_, i) => `CREATE TABLE ${name(i)} (id int PRIMARY KEY, name varchar(40)${up(i)});`).join('\n');
    await page.getByLabel('Hand in').setInputFiles({ name: 'vast.sql', mimeType: 'text/plain', buffer: Buffer.from(script) });
    await page.getByRole('button', { name: 'Save and choose what to read' }).click();
    await page.getByRole('button', { name: 'Keep this choice and survey' }).click();
    await expect(page.locator('.told').first()).toContainText('2,000 tables', atWork);
    await page.goto('/diagrams');
    await page.getByRole('row', { name: /a schema of vast, as a map/ }).getByRole('link').click();
    await expect(page).toHaveURL(/\/diagrams\/map\//);
    expect(await page.locator('.region').count()).toBeGreaterThan(20);
    await expect(page.locator('.region-map')).toHaveClass(/at-regions/);

    await page.keyboard.press('j');
    await expect(page.locator('[data-aloud]')).toHaveText(/entries, proposed/);
    await page.keyboard.press('Enter');
    // As near as a region fits the window: a small one shows its keys at once, and no names any more.
    await expect(page.locator('.region.now .of-names a:visible, .region.now.detailed .of-keys').first()).toBeAttached();
    for (let i = 0; i < 12 && !(await page.locator('.at-keys').count()); i += 1) {
        await page.keyboard.press('+');
    }
    await expect(page.locator('.region.now.detailed .of-keys').first()).toBeAttached();
    await page.keyboard.press('Escape');
    await expect(page.locator('.region-map')).toHaveClass(/at-regions/);

    await page.keyboard.press('/');
    await page.keyboard.type('gauge_1250');
    await page.getByRole('option').filter({ hasText: 'gauge_1250' }).first().click();
    await expect(page.locator('[data-aloud]')).toHaveText(/Gauge 1250, in/);
    await expect(page.locator('.found-here')).toHaveCount(1);
    await expect(page.locator('.region.now.detailed .of-fields').first()).toBeAttached();
    await accessible(page);
    await fits(page);
    expect(heard).toEqual([]);
});
