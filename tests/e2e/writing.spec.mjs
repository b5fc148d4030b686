// Writing together, and without losing a word.
import { expect, test } from './listening.mjs';
import { meaning, openEntry, signIn } from './help.mjs';

test('two people in the same text: the second sees both versions and chooses', async ({ browser }) => {
    const [oona, ren] = [await (await browser.newContext()).newPage(), await (await browser.newContext()).newPage()];
    await signIn(oona, 'oona');
    await signIn(ren, 'ren');
    await openEntry(oona, 'barrier_survey');
    await ren.goto(oona.url());

    await meaning(oona, 'score').click();
    await oona.keyboard.type('From 0, impassable, to 100, open.');
    await expect(oona.getByText('Saved', { exact: true })).toBeVisible();

    await meaning(ren, 'score').click();
    await ren.keyboard.type('How easily fish pass.');
    const clash = ren.getByRole('alertdialog');
    await expect(clash).toContainText('Oona Lisk changed this while you were writing');
    await expect(clash).toContainText('From 0, impassable, to 100, open.');
    await expect(clash).toContainText('How easily fish pass.');
    await clash.getByRole('button', { name: 'Keep both' }).click();
    await expect(ren.getByText('Saved', { exact: true })).toBeVisible();
    await ren.reload();
    await expect(meaning(ren, 'score')).toContainText('From 0, impassable, to 100, open.');
    await expect(meaning(ren, 'score')).toContainText('How easily fish pass.');
});

test('a lost connection loses no keystroke', async ({ page, context }) => {
    await signIn(page);
    await openEntry(page, 'team');
    await context.setOffline(true);
    await meaning(page, 'name').click();
    await page.keyboard.type('What the team calls itself.');
    await expect(page.getByText('No connection. What you wrote is kept here')).toBeVisible();
    await context.setOffline(false);
    await expect(page.getByText('Saved', { exact: true })).toBeVisible({ timeout: 15000 });
    await page.reload();
    await expect(meaning(page, 'name')).toHaveText('What the team calls itself.');
});

test('an expired sign-in loses no keystroke, even when the page is closed meanwhile', async ({ page, context }) => {
    await signIn(page);
    await openEntry(page, 'lab');
    const address = page.url();
    await context.clearCookies();
    await meaning(page, 'name').click();
    await page.keyboard.type('As on its letterhead.');
    await expect(page.getByText('You are signed out.')).toBeVisible();
    page.on('dialog', (dialog) => dialog.accept());
    await page.goto('/sign-in');
    await signIn(page);
    await page.goto(address);
    await expect(meaning(page, 'name')).toHaveText('As on its letterhead.');
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(meaning(page, 'name')).toHaveText('As on its letterhead.');
});

test('the history takes back any change', async ({ page }) => {
    await signIn(page);
    await openEntry(page, 'species');
    await meaning(page, 'latin_name').click();
    await page.keyboard.type('Genus and species.');
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.keyboard.press('Escape');
    await page.locator('.count').getByRole('link').first().click();
    await expect(page.locator('.history tbody tr').first()).toContainText('Genus and species.');
    await page.getByRole('button', { name: 'Take back' }).first().click();
    await expect(page.locator('.history tbody tr')).toHaveCount(3);
    await page.goBack();
    await page.reload();
    await expect(meaning(page, 'latin_name')).toHaveText('What does it mean?');
});

test('search finds names in any style, slips, business names and what is written', async ({ page }) => {
    await signIn(page);
    await page.keyboard.press('/');
    const found = page.getByRole('listbox', { name: 'What was found' });
    for (const [query, hit] of [
        ['takenAt', 'taken_at'], ['volunteers', 'name'], ['Quality flag', 'flag'], ['letterhead', 'name'], ['sightting', 'sighting'], ['painted', 'code'],
    ]) {
        await page.getByRole('combobox', { name: 'Find a field or an entry' }).fill(query);
        await expect(found.getByRole('option').filter({ hasText: hit }).first()).toBeVisible();
    }
    await page.getByRole('combobox', { name: 'Find a field or an entry' }).fill('parameter_code');
    await expect(found.getByRole('option').first()).toContainText('parameter_code');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(/\/register\/\d+#field-\d+/);
});

test('the register narrows as one types, and the index beside an entry too', async ({ page }) => {
    await signIn(page);
    await page.goto('/register');
    await page.getByRole('searchbox', { name: 'Filter by name' }).fill('visit');
    await expect(page.locator('#rows .tally')).toHaveText(/^\d+ entries$/);
    await expect(page.locator('#rows tbody tr').first()).toContainText('visit');
    await page.getByLabel('Described or not').selectOption('yes');
    await expect(page.locator('#rows .tally')).toHaveText('No entry matches.');
    await openEntry(page, 'calibration');
    await page.getByLabel('Filter entries').fill('lab');
    await expect(page.locator('.index li a')).toHaveText([/^lab/, /^lab_result/]);
});

test('a reader reads and cannot write', async ({ page }) => {
    await signIn(page, 'ida');
    await openEntry(page, 'parameter');
    await expect(page.locator('[data-text]')).toHaveCount(0);
    await page.keyboard.press('j');
    await page.keyboard.press('e');
    await expect(page.locator('textarea')).toHaveCount(0);
    await page.goto('/sources');
    await expect(page.getByRole('link', { name: 'Add a source' })).toHaveCount(0);
});
