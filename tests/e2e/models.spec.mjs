// Analytic models: a question is chosen by keyboard and answered, one that would be wrong is refused, a model is made and filled.
import { expect, test } from './listening.mjs';
import { accessible, atWork, complaints, fits, signIn } from './help.mjs';

const open = async (page, name, list) => {
    await page.goto('/models');
    await page.getByRole('link', { name, exact: true }).click();
    await page.waitForLoadState('networkidle');
    if (list) {
        await page.getByRole('navigation', { name: 'Pages of the model' }).getByRole('link', { name: list, exact: true }).click();
        await page.waitForLoadState('networkidle');
    }
};

/** Types into the part that is open, and takes what stands first. */
const choose = async (page, key, ...texts) => {
    await page.keyboard.press(key);
    for (const text of texts) {
        await expect(page.getByLabel('Type a name')).toBeFocused();
        await page.keyboard.type(text);
        await page.keyboard.press('Enter');
    }
    await expect(page.locator('.chooser')).toBeHidden();
};

test('a question is put together by keyboard, answered, reconciled and kept', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await open(page, 'River life', 'Trial');
    await choose(page, 'm', 'indiv');
    await choose(page, 'b', 'catch');
    await choose(page, 'b', 'season of day');
    await choose(page, 'w', 'year of day is 2023');
    await choose(page, 'o', 'individuals seen, the');
    await expect(page.locator('.sentence')).toContainText('individuals seen');
    await expect(page.locator('.sql-lines')).toContainText('GROUP BY catchment.catchment_name, day.season');
    await page.keyboard.press('Control+Enter');
    await expect(page.locator('.answer-rows tbody tr')).toHaveCount(12);
    await expect(page.locator('.answer-rows tfoot')).toContainText('All 12 rows');
    await expect(page.locator('.note.patina')).toContainText('individuals seen agrees');
    await expect(page.locator('.chart')).toBeVisible();
    await accessible(page);
    await fits(page);
    await page.setViewportSize({ width: 1024, height: 768 });
    await fits(page);
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goBack();
    await expect(page.locator('.answer-rows')).toHaveCount(0);
    await page.goForward();
    await expect(page.locator('[data-part="o"]').first()).toContainText('the greatest first');
    await page.keyboard.press('s');
    await page.keyboard.type('Where most was seen in 2023');
    await page.getByLabel('Who needs it').fill('the yearly report');
    await page.getByRole('button', { name: 'Keep it' }).click();
    const trial = page.locator('.kept-trials > li', { hasText: 'Where most was seen in 2023' });
    await expect(trial).toContainText('Needed by the yearly report');
    await expect(async () => {
        await page.reload();
        await expect(trial.locator('.stand')).toHaveText('answered', { timeout: 500 });
    }).toPass(atWork);
    await accessible(page);
    await trial.getByText('change', { exact: true }).click();
    await trial.getByRole('button', { name: 'Keep it no more' }).click();
    await expect(trial).toHaveCount(0);
    expect(heard).toEqual([]);
});

test('codes are chosen by their labels, and what a kept trial is changed to is taken back', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await open(page, 'River life', 'Kept trials 16');
    await page.getByRole('link', { name: 'What spring brings, month by month' }).click();
    await expect(page.locator('.sentence')).toContainText('month of day is one of March – 3, April – 4, May – 5');
    await page.locator('[data-part="w"]').first().click();
    await page.keyboard.type('month of day is octo');
    await expect(page.getByRole('option').first()).toHaveText(/October\s*10/);
    await page.keyboard.press('Enter');
    await expect(page.locator('.sql-lines')).toContainText('WHERE day.month = 10');
    await page.keyboard.press('Control+Enter');
    await expect(page.locator('.answer-rows tbody td').first()).toHaveText(/October\s+10/);
    await page.keyboard.press('s');
    await page.getByRole('button', { name: 'Change “What spring brings' }).click();
    const trial = page.locator('.kept-trials > li', { hasText: 'What spring brings' });
    await expect(trial).toContainText('where month of day is October');
    await trial.getByText('change', { exact: true }).click();
    await trial.getByRole('link', { name: 'history' }).click();
    await page.locator('tr', { hasText: 'where month of day is October; it was' }).getByRole('button', { name: 'Take back' }).click();
    await expect(page.locator('.history tbody tr').first()).toContainText('March, April, May; it was');
    expect(heard).toEqual([]);
});

test('what would be wrong is not answered, with the rows and what could be asked', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await open(page, 'River life', 'Trial');
    await choose(page, 'm', 'individuals seen');
    await choose(page, 'b', 'group');
    await page.getByRole('button', { name: 'Ask', exact: true }).click();
    await expect(page.locator('.refused')).toContainText('1 key of species group stands more than once');
    await expect(page.locator('.refused')).toContainText('1.13 times as much');
    await expect(page.locator('.refused tbody tr')).toHaveCount(2);
    await choose(page, 'm', 'readings');
    await expect(page.locator('.refused')).toContainText('Reading day cannot be split by group');
    await page.getByRole('link', { name: 'Ask for individuals seen without what is taken of reading day.' }).click();
    await expect(page.locator('.refused')).toHaveCount(0);
    await page.locator('.part', { hasText: 'group' }).first().click();
    await page.getByRole('option', { name: 'take this attribute away' }).click();
    await page.getByRole('button', { name: 'Ask', exact: true }).click();
    await expect(page.locator('.answer-rows tbody')).toContainText('3,844');
    expect(heard.filter((text) => !text.includes('422'))).toEqual([]);
});

test('a model is made from a fact, fields are taken, an expression is completed, and it is proven', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/models/new');
    await page.locator('tr', { hasText: 'main.sighting' }).getByRole('link').click();
    await page.getByLabel('Name').fill('Sightings alone');
    await accessible(page);
    await page.getByRole('button', { name: 'Make it' }).click();
    const fact = page.locator('.role').first();
    await fact.locator('.take > summary').click();
    await fact.getByLabel('Individuals').check();
    await fact.getByRole('button', { name: 'Take what is ticked' }).click();
    await expect(page.locator('.measures').first()).toContainText('sum of individuals');
    await page.locator('.role').first().locator('.take > summary').click();
    await page.getByText('A measure in your own words').click();
    const form = page.locator('form.part-form').first();
    await form.locator('[name=name]').fill('Protected ones');
    await form.locator('[name=expression]').fill('individuals');
    await form.locator('[name=filter]').pressSequentially('species.pro');
    await expect(form.locator('.completions li.now')).toContainText('species.protected');
    await page.keyboard.press('Tab');
    await expect(form.locator('[name=filter]')).toHaveValue('species.protected');
    await form.locator('[name=filter]').pressSequentially(" = 'yes'");
    await expect(form.locator('.formula-says').first()).toContainText('A number is compared with a text');
    await form.locator('[name=filter]').fill('species.protected = 1');
    await expect(form.locator('.formula-says').first()).toContainText('gives a yes or no');
    await form.getByRole('button', { name: 'Take it in' }).click();
    await expect(page.locator('.measures').first()).toContainText('Protected ones');
    await page.getByRole('button', { name: 'station', exact: true }).click();
    await expect(page.locator('.found-hierarchies')).toContainText('reach name');
    await page.locator('.found-hierarchies').getByRole('button', { name: 'Take it' }).first().click();
    await expect(page.locator('#hierarchies')).toContainText('catchment');
    await accessible(page);
    await fits(page);
    await page.getByRole('link', { name: 'Matrix' }).click();
    await page.locator('.matrix td summary').first().click();
    await expect(page.locator('.matrix td details[open]').first()).toContainText('by');
    await accessible(page);
    await page.getByRole('link', { name: /^Checks/ }).click();
    await expect(page.locator('.findings')).toContainText('It is not said what one row of “sighting” stands for');
    await accessible(page);
    await page.getByRole('link', { name: 'Lineage' }).click();
    await expect(page.locator('.model-lineage').first()).toContainText('sighting.individuals');
    await accessible(page);
    await open(page, 'Sightings alone');
    await page.getByText('About the model').click();
    await page.getByRole('button', { name: 'Throw the model away' }).click();
    await expect(page.locator('.flash')).toContainText('is thrown away');
    await page.getByText('1 model thrown away').click();
    await page.getByRole('button', { name: 'Take it back' }).click();
    await expect(page.locator('.flash')).toContainText('is back');
    expect(heard).toEqual([]);
});

test('a year stands beside the year before, a share is added, and what would count twice is refused with what to ask', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await open(page, 'River life', 'Trial');
    await expect(page.locator('.asked-folders')).toContainText('how many times anything was seen');
    await accessible(page);
    await fits(page);
    await page.locator('.begin').getByRole('link', { name: 'A year beside the year before' }).click();
    await expect(page.locator('.begin')).toBeHidden();
    await page.getByLabel('year', { exact: true }).fill('2024');
    await page.keyboard.press('Tab');
    await expect(page.locator('.sentence')).toContainText('year of day is 2024');
    await choose(page, 'm', 'share of sight');
    await page.keyboard.press('Control+Enter');
    await expect(page.locator('.answer-rows tbody tr')).toHaveCount(3);
    await expect(page.locator('.answer-rows thead')).toContainText('share of sightings');
    await expect(page.locator('.answer-rows thead')).toContainText('change in per cent of sightings from 1 year before by date of day');
    await accessible(page);
    await fits(page);
    const file = page.waitForEvent('download');
    await page.getByRole('button', { name: 'CSV' }).click();
    expect((await file).suggestedFilename()).toMatch(/^River-life-.*\.csv$/);
    await page.goto(`${page.url().split('?')[0]}?m[]=protection+by+sighting&b[]=catchment`);
    await expect(page.locator('.refused')).toContainText('each would count once for each of its rows of sighting');
    await expect(page.getByRole('link', { name: 'Ask for “protected species”, which is taken of species.' })).toBeVisible();
    expect(heard).toEqual([]);
});

test('a reader asks a shared model', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page, 'ida');
    await open(page, 'River life', 'Trial');
    await page.locator('.begin').getByRole('link', { name: 'What each catchment contributes' }).click();
    await page.getByRole('button', { name: 'Ask', exact: true }).click();
    await expect(page.locator('.answer-rows tbody tr')).toHaveCount(3);
    await expect(page.locator('.answer-rows')).toContainText('%');
    await accessible(page);
    expect(heard).toEqual([]);
});
