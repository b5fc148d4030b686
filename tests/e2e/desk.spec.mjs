// The desk: one area from nothing to fully described, by keyboard alone; drafts, code lists, terms and findings as people meet them.
import { expect, test } from './listening.mjs';
import { accessible, complaints, fits, openEntry, signIn } from './help.mjs';

const item = (page) => page.locator('[data-item]');

test('a draft is taken in several places at once, and all of it is taken back; another is put off', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/desk?area=Wildlife');
    await expect(item(page)).toHaveAttribute('data-topic', /entry|field/);
    const first = await item(page).getAttribute('data-id');
    const topic = await item(page).getAttribute('data-topic');
    await page.keyboard.press('l');
    await expect(page.locator('.saved')).toHaveText('Put off for a week');
    await expect.poll(() => item(page).evaluate((one) => `${one.dataset.topic} ${one.dataset.id}`)).not.toBe(`${topic} ${first}`);
    await page.keyboard.press('Control+z');
    await expect.poll(() => item(page).evaluate((one) => `${one.dataset.topic} ${one.dataset.id}`)).toBe(`${topic} ${first}`);
    await openEntry(page, 'visit');
    const row = page.locator('[data-row]').filter({ has: page.getByRole('button', { name: 'id', exact: true }) });
    const draft = row.locator('[data-draft][data-property=meaning]');
    await draft.focus();
    await expect(draft.locator('[data-places]')).toContainText('which are shown before anything is written');
    await expect(draft.locator('[data-places] input').first()).toBeHidden();
    const places = await draft.locator('[data-places] input:checked').count();
    expect(places).toBeGreaterThan(3);
    await page.keyboard.press('Enter');
    await expect(page.locator('.saved')).toContainText(`Look at the ${places} other places`);
    await expect(draft.locator('[data-places] input').first()).toBeVisible();
    await expect(row.locator('[data-property=meaning][data-text]')).toHaveText('What does it mean?');
    await page.keyboard.press('Enter');
    await expect(page.locator('.saved')).toHaveText(`Taken in ${places + 1} places`);
    await expect(row.locator('[data-property=meaning][data-text]')).toContainText('Numbered by the database');
    await page.keyboard.press('Control+z');
    await expect(page.locator('.saved')).toHaveText('Taken back');
    await expect(row.locator('[data-property=meaning][data-text]')).toHaveText('What does it mean?');
    await page.goto('/drafts/takings');
    await expect(page.locator('tbody tr').first()).toContainText('taken back');
    await accessible(page);
    expect(heard).toEqual([]);
});

test('one area is described from nothing to the last field, by keyboard alone', async ({ page }) => {
    test.setTimeout(240000);
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/desk?area=Laboratory');
    const waiting = Number((await page.locator('.reason').textContent()).match(/(\d+) to describe/)[1]);
    expect(waiting).toBeGreaterThan(15);
    let keys = 0;
    let texts = 0;
    let drafts = 0;
    const press = async (key) => { keys += 1; await page.keyboard.press(key); };
    for (let i = 0; i < 200 && await page.locator('[data-item][data-topic]').count() > 0; i += 1) {
        const [topic, id] = await item(page).evaluate((one) => [one.dataset.topic, one.dataset.id]);
        const before = await page.locator('[data-draft]').count();
        const described = await page.locator('[data-text][data-property=meaning]').getAttribute('data-value', { timeout: 3000 }).catch(() => null);
        if (described === null) {
            // The last one has just gone.
            continue;
        }
        if (before > 0) {
            await press('Enter');
            drafts += 1;
            await expect(page.locator('.saved')).toContainText(/Taken|Look at/);
            if ((await page.locator('.saved').textContent()).startsWith('Look')) {
                await press('Enter');
            }
            await expect(page.locator('.saved')).toContainText('Taken');
            await expect.poll(() => page.evaluate(([t, n, had]) => {
                const now = document.querySelector('[data-item]');
                return now.dataset.topic !== t || now.dataset.id !== n || document.querySelectorAll('[data-draft]').length < had;
            }, [topic, id, before])).toBe(true);
        } else if (described === '') {
            // Nothing is proposed: a few words are written.
            await press('e');
            const words = `What the laboratory keeps of it.`;
            keys += words.length;
            await page.keyboard.type(words);
            texts += 1;
            await press('Control+Enter');
            await expect.poll(() => item(page).evaluate((one, [t, n]) => one.dataset.topic !== t || one.dataset.id !== n, [topic, id])).toBe(true);
        } else {
            await press('Enter');
            await expect.poll(() => item(page).evaluate((one, [t, n]) => one.dataset.topic !== t || one.dataset.id !== n, [topic, id])).toBe(true);
        }
    }
    await expect(page.locator('[data-none]')).toBeVisible();
    await page.goto('/desk?area=Laboratory&by=area');
    await expect(page.locator('.covers', { hasText: 'Laboratory' })).toContainText('100 %');
    console.log(`Laboratory: ${waiting} things, ${keys} keystrokes, ${texts} texts typed, ${drafts} drafts taken`);
    expect(texts).toBeLessThan(waiting / 2);
    expect(heard).toEqual([]);
});

test('a code list stands against its data, and a value without a meaning is added with one key', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/register/code-lists');
    await page.getByRole('link', { name: 'station status' }).click();
    await expect(page.locator('.missing')).toContainText('paused');
    await accessible(page);
    await page.getByRole('button', { name: 'add', exact: true }).focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('.flash')).toHaveText('1 code added.');
    await expect(page.locator('tbody tr', { hasText: 'paused' })).toContainText('1');
    await expect(page.locator('.missing')).toHaveCount(0);
    await page.keyboard.press('j');
    await page.keyboard.press('b');
    await page.keyboard.type('soon');
    await page.keyboard.press('Enter');
    await expect(page.locator('.saved')).toHaveText('Saved');
    await fits(page);
    await page.setViewportSize({ width: 1024, height: 768 });
    await fits(page);
    await openEntry(page, 'species');
    await page.keyboard.press('j');
    expect(heard).toEqual([]);
});

test('terms are led to as one reads; findings are set aside with a reason, and checks switched', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await openEntry(page, 'station');
    const term = page.locator('.meaning a.term').first();
    await expect(term).toHaveText('reach');
    await term.click();
    await expect(page.locator('h1')).toHaveText('reach');
    await accessible(page);
    await page.goto('/register/glossary');
    await expect(page.locator('tr', { hasText: 'hydrological' })).toContainText('means 2 things');
    await accessible(page);
    await page.goto('/register/findings');
    await accessible(page);
    const line = page.locator('tbody tr', { hasText: 'reserved word' }).first();
    await line.getByRole('button', { name: 'set aside' }).click();
    await page.getByLabel('Why it is as it should be').fill('The tool that reads it quotes every name.');
    await page.keyboard.press('Enter');
    await expect(page.locator('tbody tr', { hasText: 'reserved word' })).toHaveCount(0);
    await page.goto('/register/findings/checks');
    await accessible(page);
    await page.locator('#unjoined input, tr[id] input[name=runs]').first().isChecked();
    await page.goto('/register/findings?check=personal-unclassed');
    await page.keyboard.press('j');
    await page.keyboard.press('m');
    await expect(page.locator('.saved')).toHaveText('Mended');
    for (const width of [1280, 1024]) {
        await page.setViewportSize({ width, height: 800 });
        for (const path of ['/desk', '/register/findings', '/register/glossary', '/register/code-lists', '/register/short-forms', '/drafts/takings']) {
            await page.goto(path);
            await fits(page);
        }
    }
    await page.goto('/desk');
    await accessible(page);
    expect(heard).toEqual([]);
});
