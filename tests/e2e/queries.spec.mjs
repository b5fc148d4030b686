// Queries read: a view as steps, a figure followed down, what breaks, and a query that is pasted.
import { Buffer } from 'node:buffer';
import { expect, test } from './listening.mjs';
import { accessible, complaints, fits, signIn } from './help.mjs';

const open = async (page, name) => {
    await page.goto(`/register?q=${name}`);
    await page.getByRole('link', { name, exact: true }).click();
    await expect(page.locator('.ledger')).toBeVisible();
};
const row = (page, field) => page.locator('[data-row]').filter({ has: page.getByRole('button', { name: field, exact: true }) });

test('a view is shown as steps, and its query leads to the fields that it names', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await open(page, 'reading_month');
    await page.getByRole('link', { name: '4 steps' }).click();
    await expect(page.locator('.steps b')).toHaveText([
        'Take reading_day, called f', 'Take day, called d', 'Join day; rows without drop out', 'One row for each different set of',
    ]);
    await expect(page.locator('.steps .ends')).toHaveText('Exactly one day to each row, any number of rows to each day.');
    const heights = await page.locator('.steps > li').evaluateAll((steps) => steps.map((step) => step.getBoundingClientRect().height));
    expect(Math.max(...heights)).toBeLessThan(80);
    await expect(page.locator('.told-by')).toContainText('year, month, station_id, parameter_id');
    await accessible(page);
    await page.setViewportSize({ width: 1024, height: 768 });
    await fits(page);
    await page.locator('.sql a', { hasText: 'f.least' }).click();
    await expect(page).toHaveURL(/#field-\d+$/);
    await expect(page.locator('h1')).toHaveText('Reading day');
    expect(heard).toEqual([]);
});

test('a figure is followed down two views, and what breaks is said', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await open(page, 'reading_month_place');
    await row(page, 'readings').getByRole('button', { name: 'readings', exact: true }).click();
    await row(page, 'readings').getByRole('link', { name: /as a picture/ }).click();
    const picture = page.locator('.lineage-picture');
    await expect(picture.locator('.title')).toHaveText(['reading_day', 'reading_month', 'reading_month_place']);
    await expect(picture.locator('.tie')).toHaveCount(2);
    await expect(page.locator('.trace > li > a')).toHaveText(['reading_month.readings', 'reading_day.readings']);
    await page.getByText('4 steps of').click();
    await expect(page.locator('.steps-between .steps b').first()).toHaveText('Take reading_day, called f');
    await accessible(page);

    await picture.getByRole('link', { name: 'readings' }).first().focus();
    await expect(picture.locator('.tie.lit')).toHaveCount(2);
    await page.keyboard.press('Enter');
    await expect(page.locator('.lead')).toContainText('reading_day.readings');
    await expect(page.locator('#breaks table').first().locator('tbody th')).toHaveText(['main.reading_month', 'main.reading_month_place']);
    await expect(page.locator('#breaks tbody tr').nth(1)).toContainText('by way of reading_month');
    await page.getByRole('link', { name: /also what only decides/ }).click();
    await expect(page.getByRole('link', { name: 'without what only decides' })).toBeVisible();
    await fits(page);
    expect(heard).toEqual([]);
});

test('what uses a retired field is told, and two sources meet', async ({ page }) => {
    await signIn(page);
    await open(page, 'sighting_season');
    await expect(row(page, 'season').locator('.m')).toContainText('It uses day.season, which is retired: replaced by day.month');
    await row(page, 'season').getByRole('link', { name: 'day.season' }).first().click();
    await expect(row(page, 'season')).toContainText('retired');
    await row(page, 'season').getByRole('button', { name: 'season', exact: true }).click();
    await expect(row(page, 'season')).toContainText('2027-03-31');

    await open(page, 'station_place');
    await page.getByRole('link', { name: 'picture' }).click();
    await expect(page.locator('.tie.said[data-from]')).toHaveCount(2);
    await expect(page.locator('.lineage-picture .below').first()).toContainText('fieldwork');
});

test('a pasted query is read, with what is not understood, and kept', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/register/queries');
    await accessible(page);
    await page.getByLabel('The query').fill('WITH n AS (SELECT station_id, sum(individuals) AS seen FROM sighting GROUP BY station_id)\n'
        + 'SELECT s.station_name, n.seen, nosuch FROM station s LEFT JOIN n ON n.station_id = s.station_id ORDER BY 2 DESC');
    await page.getByLabel('Source').selectOption({ label: 'mart' });
    await page.getByRole('button', { name: 'Read it' }).click();
    await expect(page.locator('.not-understood li')).toHaveText('No table here has a field “nosuch” at line 2, column 32');
    await expect(page.locator('.steps b').last()).toHaveText('Put them in order');
    const seen = page.locator('.query-fields tbody tr').nth(1);
    await expect(seen).toContainText('sighting.individuals');
    await accessible(page);
    await page.setViewportSize({ width: 1024, height: 768 });
    await fits(page);
    await page.getByLabel('What the query is for').fill('Who sees most');
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.locator('h1')).toHaveText('Who sees most');
    await seen.getByRole('link', { name: 'sighting.individuals' }).click();
    await expect(page.locator('h1')).toHaveText('Sighting');
    await page.goto('/register/queries');
    await expect(page.locator('.list.queries')).toContainText('Who sees most');

    await page.getByLabel('Source').selectOption({ label: 'mart' });
    const buffer = Buffer.from('SELECT year, sum(individuals) AS n\r\nFROM sighting_season GROUP BY year;');
    await page.getByLabel('or a file').setInputFiles({ name: 'years.sql', mimeType: 'application/sql', buffer });
    await expect(page.locator('.steps b')).toHaveText(['Take sighting_season', 'One row for each different value of']);
    await expect(page.getByLabel('The query', { exact: true })).toHaveValue(/^SELECT year/);
    expect(heard).toEqual([]);
});
