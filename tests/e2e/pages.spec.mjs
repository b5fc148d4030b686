// The corners of the pages that the path does not turn.
import { expect, test } from './listening.mjs';
import { complaints, fits, meaning, openEntry, signIn } from './help.mjs';

test('a drawing is moved, sized and read by pointer, wheel and keyboard', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/diagrams/sources/1?schema=fieldwork');
    const frame = page.locator('.drawing');
    const state = () => page.locator('.drawing > svg').evaluate((svg) => svg.style.transform);
    const fitted = await state();

    await frame.focus();
    await page.keyboard.press('ArrowLeft');
    expect(await state()).not.toBe(fitted);
    await page.keyboard.press('f');
    expect(await state()).toBe(fitted);
    await page.keyboard.press('+');
    const larger = Number(/scale\(([\d.]+)\)/.exec(await state())[1]);
    expect(larger).toBeGreaterThan(Number(/scale\(([\d.]+)\)/.exec(fitted)[1]));
    await page.getByRole('button', { name: 'fit' }).click();
    expect(await state()).toBe(fitted);

    const tablet = page.locator('svg .tablet').filter({ has: page.locator('.title', { hasText: /^Station$/ }) });
    await tablet.locator('.title').hover();
    await expect(page.locator('svg.pointed')).toHaveCount(1);
    await expect(page.locator('svg .line.near')).toHaveCount(9);
    await expect(tablet.locator('title').first()).toContainText('One row per place where the trust measures the river');

    const box = await tablet.locator('.title').boundingBox();
    await page.mouse.move(box.x + 5, box.y + 5);
    await page.mouse.down();
    await page.mouse.move(box.x + 90, box.y + 60, { steps: 5 });
    await page.mouse.up();
    await expect(page).toHaveURL(/\/diagrams\/sources\/1/);
    expect(await state()).not.toBe(fitted);

    await frame.hover();
    const before = await state();
    await page.mouse.wheel(0, -240);
    await expect.poll(state).not.toBe(before);
    expect(heard).toEqual([]);
});

test('whether tablets show identifiers is remembered', async ({ page }) => {
    await signIn(page);
    await page.goto('/diagrams/sources/1?schema=fieldwork');
    await page.getByRole('link', { name: 'Identifiers' }).click();
    await expect(page.locator('svg .title', { hasText: 'barrier_survey' })).toHaveCount(1);
    await page.goto('/diagrams/sources/1?schema=archive');
    await expect(page.locator('svg .title', { hasText: 'reading_2023' })).toHaveCount(1);
    await page.getByRole('link', { name: 'Business names' }).click();
    await expect(page.locator('svg .title', { hasText: 'Reading 2023' })).toHaveCount(1);
});

test('the theme follows the system until a person chooses', async ({ page }) => {
    await signIn(page);
    const paper = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    const light = await paper();
    await page.emulateMedia({ colorScheme: 'dark' });
    const dark = await paper();
    expect(dark).not.toBe(light);
    await page.getByLabel('Account and appearance').click();
    await page.getByRole('button', { name: 'Light' }).click();
    expect(await paper()).toBe(light);
    await page.reload();
    expect(await paper()).toBe(light);
    await page.getByLabel('Account and appearance').click();
    await page.getByRole('button', { name: 'System' }).click();
    expect(await paper()).toBe(dark);
});

test('rows, keys and neighbours by keyboard', async ({ page }) => {
    await signIn(page);
    await openEntry(page, 'sample');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText('write the meaning');
    await page.keyboard.press('Escape');
    await page.keyboard.press('j');
    await page.keyboard.press('j');
    await page.keyboard.press('Enter');
    const row = page.locator('[data-row].at');
    await expect(row.locator('[data-more]')).toBeVisible();
    await expect(row).toContainText('Native type');
    await page.keyboard.press('Enter');
    await expect(row.locator('[data-more]')).toBeHidden();
    await page.keyboard.press('k');
    await expect(page.locator('[data-row].at .id')).toHaveText('id');
    await page.keyboard.press(']');
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sighting');
    await page.keyboard.press('[');
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sample');
    await page.getByRole('button', { name: 'Show or hide the index' }).click();
    await expect(page.locator('.index')).toBeHidden();
    await page.reload();
    await expect(page.locator('.index')).toBeHidden();
    await page.getByRole('button', { name: 'Show or hide the index' }).click();
    await expect(page.locator('.index')).toBeVisible();
});

test('verbs and standing are written in place and show where they belong', async ({ page }) => {
    await signIn(page);
    await openEntry(page, 'alert_rule');
    const sentence = page.locator('.joins li').first();
    await sentence.locator('[data-property=verb]').click();
    await page.keyboard.type('watches');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.getByLabel('Standing', { exact: true }).selectOption('in review');
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(sentence).toContainText('An alert rule watches exactly one parameter');
    await expect(page.getByLabel('Standing', { exact: true })).toHaveValue('in review');
    await page.getByRole('link', { name: 'diagram', exact: true }).click();
    await expect(page.locator('svg .verb', { hasText: 'watches' })).toHaveCount(1);
});

test('a very long text and a very long name stay in their place', async ({ page }) => {
    await signIn(page);
    await openEntry(page, 'unit');
    await page.keyboard.press('b');
    await page.keyboard.type('Unit of measure '.repeat(11).trim());
    await page.keyboard.press('Enter');
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await meaning(page, 'symbol').click();
    await page.keyboard.insertText(`${'averylongwordwithoutanyblank'.repeat(20)}\n\n${'words and more words '.repeat(60)}`);
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    for (const width of [1280, 1024, 390]) {
        await page.setViewportSize({ width, height: 800 });
        await fits(page);
        await page.goto('/register?q=unit');
        await fits(page);
        await page.goBack();
    }
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.keyboard.press('b');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('u'.repeat(200));
    await expect(page.getByText('190 fit here')).toBeVisible();
});

test('an administrator opens and closes an account', async ({ page, browser }) => {
    await signIn(page, 'ren');
    await page.getByLabel('Account and appearance').click();
    await page.getByRole('link', { name: 'Accounts' }).click();
    await page.getByRole('link', { name: 'Add an account' }).click();
    await page.getByLabel('Name').fill('Pell Osier');
    await page.getByLabel('E-mail').fill('pell@arrowmere.example');
    await page.getByLabel('Role').selectOption('steward');
    await page.getByLabel('Password').fill('osier-by-the-mere');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('status')).toHaveText('The account of Pell Osier is saved.');

    await page.getByRole('link', { name: 'Add a role' }).click();
    await page.getByLabel('Name').fill('reviewer');
    await page.getByLabel('make editions').check();
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('status')).toHaveText('The role “reviewer” is saved.');
    await page.getByRole('link', { name: 'reviewer' }).click();
    await expect(page.getByLabel('make editions')).toBeChecked();
    await page.getByRole('button', { name: 'Take the role away' }).click();
    await expect(page.getByRole('status')).toHaveText('The role “reviewer” is gone.');

    const pell = await (await browser.newContext()).newPage();
    const enter = async () => {
        await pell.goto('/sign-in');
        await pell.getByLabel('E-mail').fill('pell@arrowmere.example');
        await pell.getByLabel('Password').fill('osier-by-the-mere');
        await pell.getByRole('button', { name: 'Sign in' }).click();
    };
    await enter();
    await expect(pell.getByRole('heading', { level: 1 })).toHaveText('Desk');
    await pell.getByLabel('Account and appearance').click();
    await pell.getByRole('button', { name: 'Sign out' }).click();
    await expect(pell).toHaveURL(/sign-in/);

    await page.getByRole('link', { name: 'Pell Osier' }).click();
    await page.getByLabel('May sign in').uncheck();
    await page.getByRole('button', { name: 'Save' }).click();
    await enter();
    await expect(pell.getByRole('alert')).toContainText('This account is closed');
});
