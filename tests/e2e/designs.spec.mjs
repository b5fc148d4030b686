// Designs: from an empty one to a database that runs, by keyboard alone; mended, ruled, resolved, planned against a source.
import { expect, test } from './listening.mjs';
import { accessible, atWork, complaints, fits, signIn } from './help.mjs';

const outline = (page) => page.locator('.cm-content');
const saved = (page) => expect(page.locator('[data-saved]')).toHaveText('Saved', { timeout: 15000 });
/** The editor draws only the lines that are seen. */
const text = (page) => page.evaluate(() => document.querySelector('[data-design]').page.editor.text());
const says = (page, words) => expect.poll(() => text(page), { timeout: 15000 }).toContain(words);
const counts = (page, words) => expect(page.locator('[data-counts]')).toContainText(words);

/** Types lines as they are to stand, whatever the editor would indent by itself. */
const write = async (page, text) => {
    for (const line of text.split('\n')) {
        await page.keyboard.press('Home');
        await page.keyboard.press('Shift+End');
        await page.keyboard.type(line === '' ? ' ' : line);
        await page.keyboard.press('Escape');
        if (line === '') {
            await page.keyboard.press('Backspace');
        }
        await outline(page).focus();
        await page.keyboard.press('Enter');
    }
};

const make = async (page, name) => {
    await page.goto('/designs/new');
    await page.keyboard.type(name);
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(/\/designs\/\d+$/);
    await expect(outline(page)).toBeFocused();
    await page.keyboard.press('Control+End');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
};

const ran = async (page, text) => {
    await expect(async () => {
        await page.reload();
        await expect(page.locator('.script-side .answer')).toContainText(text, { timeout: 500 });
    }).toPass(atWork);
};

test('from an empty design to a database that runs and is read back, by keyboard alone', async ({ page }) => {
    test.setTimeout(180000);
    const heard = complaints(page);
    await signIn(page);
    await make(page, 'Permits');
    await write(page, 'Angler, one row per person who may fish\n  name, text up to 80, required, personal\n  card, text of 8, required, unique\n\n'
        + 'Permit\n  valid from, date, required\n  valid until, date, not before valid from\n\n'
        + 'An angler holds any number of permits; a permit is held by exactly one angler.');
    await counts(page, '2 things · 4 attributes');
    await expect(page.locator('.tablet')).toHaveCount(2);
    await expect(page.locator('.line .verb')).toHaveText('holds');
    await saved(page);
    await accessible(page);
    await fits(page);
    await page.keyboard.press('Control+Enter');
    await expect(page).toHaveURL(/\/script$/);
    await expect(page.locator('.script-text')).toContainText('CREATE TABLE angler');
    await page.getByRole('button', { name: 'Run it' }).focus();
    await page.keyboard.press('Enter');
    await ran(page, 'No difference. 2 tables');
    await accessible(page);
    await fits(page);
    expect(heard).toEqual([]);
});

test('a statement that reaches beyond its scratch server is refused, and what the engine says is shown', async ({ page }) => {
    await signIn(page);
    await make(page, 'Cage');
    await page.keyboard.insertText("Loan\n  due, date\n\nStatement \"out\", $$COPY (SELECT 1) TO PROGRAM 'touch /work/x'$$");
    await says(page, 'TO PROGRAM');
    await saved(page);
    await page.keyboard.press('Control+Enter');
    await expect(page).toHaveURL(/\/script$/);
    await page.getByRole('button', { name: 'Run it' }).click();
    await ran(page, 'pg_execute_server_program');
});

test('a line with a mistake is said below it and mended with what it offers', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await make(page, 'Mistaken');
    await write(page, 'Loan\n  returned, dat');
    await expect(page.locator('[data-faults]')).toHaveText('1 line not understood');
    await expect(page.locator('.o-said')).toContainText('“dat” is no type. Did you mean date');
    await page.locator('.o-said button', { hasText: /^date$/ }).click();
    await expect(page.locator('.o-said')).toHaveCount(0);
    await counts(page, '1 thing · 1 attribute');
    await expect(outline(page)).toContainText('returned, date');
    await page.keyboard.press('Control+z');
    await expect(page.locator('.o-said')).toHaveCount(1);
    await page.keyboard.press('Control+y');
    await expect(page.locator('.o-said')).toHaveCount(0);
    expect(heard).toEqual([]);
});

test('many at both ends become a table, a rule is seen before it is switched, and drawing, ledger and outline keep in step', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/designs');
    await page.getByRole('link', { name: 'Lending to schools' }).click();
    await expect(page.locator('.tablet')).toHaveCount(5);
    await page.locator('.line', { hasText: 'is of' }).first().dispatchEvent('pointerdown', { button: 0 });
    await page.locator('.line', { hasText: 'is of' }).first().dispatchEvent('pointerup', { button: 0 });
    await expect(page.locator('.about-piece h2')).toHaveText('Many at both ends');
    await expect(page.locator('.about-piece')).toContainText('become a table “loan kit”');
    await page.getByRole('button', { name: 'Let a link have a number of its own' }).click();
    await says(page, 'keyed by a number of its own');
    await page.getByRole('button', { name: 'attributes and keys' }).click();
    await expect(page.locator('.tablet', { hasText: 'Loan kit' })).toBeVisible();
    await page.getByRole('button', { name: 'Rules' }).click();
    await page.getByLabel('rows say when they were made and changed').check();
    await expect(page.locator('[data-rule="times"] .preview')).toContainText('created_at');
    await page.locator('[data-rule="times"]').getByRole('button', { name: 'Let it be so' }).click();
    await page.locator('#design-rules').getByRole('button', { name: 'Close' }).click();
    await says(page, 'rows say when they were made and changed');
    await expect(page.locator('.tablet', { hasText: 'created at' }).first()).toBeVisible();
    await page.getByRole('button', { name: 'Ledger' }).click();
    await page.locator('[data-cell="School|town|said"]').fill('text up to 70');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Outline' }).click();
    await says(page, 'town, text up to 70');
    await accessible(page);
    await page.setViewportSize({ width: 1024, height: 768 });
    await fits(page);
    await page.setViewportSize({ width: 1280, height: 800 });
    for (let n = 0; n < 3; n += 1) {
        await outline(page).focus();
        await page.keyboard.press('Control+z');
    }
    await expect.poll(() => text(page)).not.toContain('rows say when');
    await saved(page);
    expect(heard).toEqual([]);
});

test('two people in one outline: different lines are put together, the same line is decided', async ({ page, browser }) => {
    await signIn(page);
    await make(page, 'Shared');
    await write(page, 'Reach\n  name, text\n\nGauge\n  code, text');
    await saved(page);
    const { pathname } = new URL(page.url());
    await page.getByText('About', { exact: true }).click();
    await page.getByRole('button', { name: 'Share it' }).click();
    await expect(page).toHaveURL(new RegExp(`${pathname}$`));
    const other = await (await browser.newContext()).newPage();
    await signIn(other, 'ren');
    await other.goto(pathname);
    await expect(outline(other)).toContainText('Gauge');
    await outline(page).getByText('name, text').click();
    await page.keyboard.press('End');
    await page.keyboard.type(', required');
    await saved(page);
    await outline(other).getByText('code, text').click();
    await other.keyboard.press('End');
    await other.keyboard.type(', unique');
    await expect(outline(other)).toContainText('name, text, required');
    await saved(other);
    await expect(outline(other)).toContainText('code, text, unique');
    await outline(page).getByText('code, text').click();
    await page.keyboard.press('End');
    await page.keyboard.type(' up to 9');
    await expect(page.locator('.clash-dialog')).toContainText('code, text, unique');
    await page.getByRole('button', { name: 'Keep mine in these lines' }).click();
    await expect(outline(page)).toContainText('code, text up to 9');
    await saved(page);
});

test('a planned change of a source is read, and run on a scratch copy with its rows', async ({ page }) => {
    test.setTimeout(120000);
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/designs');
    await page.getByRole('link', { name: 'Stations next season' }).click();
    await page.getByRole('link', { name: 'Changes', exact: true }).click();
    await expect(page.locator('.plan-risks li').first()).toContainText('Loses values visit.note goes');
    await expect(page.locator('.plan')).toContainText('RENAME COLUMN datum TO grid');
    await expect(page.locator('.script-side')).toContainText('From a reading to its catchment');
    await page.getByRole('button', { name: 'Run it' }).click();
    await ran(page, 'No difference.');
    await expect(page.locator('.plan-rows tr', { hasText: 'station' })).toContainText('48');
    await accessible(page);
    await fits(page);
    expect(heard).toEqual([]);
});

test('rows that a planned change cannot keep are counted, and it is decided what happens to them', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/designs');
    await page.getByRole('link', { name: 'Stations next season' }).click();
    await page.waitForLoadState('networkidle');
    await page.goto(`${page.url().replace(/[#?].*$/, '')}/changes`);
    const rows = page.locator('.plan-questions tbody tr', { hasText: 'of visit that have “note”, which goes' });
    await expect(rows.locator('td.n')).toHaveText('–');
    await page.getByRole('button', { name: 'Count them in fieldwork' }).click();
    await expect(async () => {
        await page.reload();
        await expect(rows.locator('td.n')).toHaveText('257', { timeout: 500 });
    }).toPass(atWork);
    await accessible(page);
    await fits(page);
    await rows.getByRole('combobox').selectOption('nothing is done while there is one');
    await page.getByRole('button', { name: 'Keep what was chosen' }).click();
    await expect(page.locator('.plan > li').first()).toContainText('Stops, and nothing has been touched, where rows of visit have “note”, which goes.');
    await page.getByRole('button', { name: 'Run it' }).click();
    await expect(async () => {
        await page.reload();
        await expect(page.locator('.script-side')).toContainText('It stops, and nothing has been touched: rows of visit', { timeout: 500 });
    }).toPass(atWork);
    await rows.getByRole('combobox').selectOption('what stands there is lost');
    await page.getByRole('button', { name: 'Keep what was chosen' }).click();
    await page.getByRole('button', { name: 'Run it again' }).click();
    await expect(async () => {
        await page.reload();
        await expect(page.locator('.script-side')).toContainText('No difference.', { timeout: 500 });
    }).toPass(atWork);
    expect(heard).toEqual([]);
});
