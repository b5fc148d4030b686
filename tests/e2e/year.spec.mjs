// A season later: the source has changed, a steward decides what to follow. It changes the demo's database: see playwright.config.mjs.
import { expect, test } from './listening.mjs';
import { accessible, atWork, complaints, fits, openEntry, signIn } from './help.mjs';

test('a season later, the drift is shown and followed, and a doubtful text stands in the margin', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/sources');
    await page.getByRole('link', { name: 'fieldwork', exact: true }).click();
    await page.getByRole('button', { name: 'A season later, survey again' }).click();
    await expect(page.getByRole('heading', { name: 'What has changed' })).toBeVisible(atWork);
    const drift = page.locator('.drift > li');
    await expect(drift.filter({ hasText: 'land_contact' })).toContainText('landowner → fieldwork.land_contact');
    await expect(drift.filter({ hasText: 'fieldwork.station' })).toContainText('opened_on → in_service_from');
    await expect(drift.filter({ hasText: 'tmp_import_0423' })).toContainText('gone');
    await expect(drift.filter({ hasText: 'fieldwork.reading' })).toContainText('the type was decimal(6,2) and is decimal(9,3)');
    await expect(drift.filter({ hasText: 'fieldwork.reading' })).toContainText('On it depends main.reading_day (least, mean, greatest)');
    await accessible(page);
    await fits(page);

    await page.getByLabel('What to do about fieldwork.water_body').selectOption('no');
    await page.getByRole('button', { name: 'Follow 7 of 8' }).first().click();
    await expect(page.locator('.told').first()).toContainText('Oona Lisk decided about it');
    await expect(drift.filter({ hasText: 'water_body' })).toContainText('left for later');

    await page.goto('/sources');
    await page.getByRole('link', { name: 'fieldwork', exact: true }).click();
    await expect(page.getByText('1 text is doubtful since the source has changed')).toBeVisible();
    await expect(page.getByRole('button', { name: 'A season later' })).toHaveCount(0);
    await page.getByRole('link', { name: 'Show the entries' }).click();
    await page.getByRole('link', { name: 'reading', exact: true }).click();
    const note = page.locator('.doubt', { hasText: 'Doubtful' });
    await expect(note).toContainText('The text speaks of 9999.99');
    await accessible(page);
    await note.getByRole('button', { name: 'it still holds' }).click();
    await expect(note).toHaveCount(0);

    await openEntry(page, 'station');
    const renamed = page.locator('[data-row]').filter({ has: page.getByRole('button', { name: 'in_service_from', exact: true }) });
    await expect(renamed).toContainText('The day of its first valid reading.');
    await page.goto('/sources/1');
    await page.getByRole('button', { name: 'Survey again' }).click();
    await expect(page.locator('.drift > li')).toHaveCount(1, atWork);
    await page.getByRole('button', { name: 'Follow all of it' }).first().click();
    await expect(page.locator('.told').first()).toContainText('decided about it');
    await page.goto('/sources/1');
    await page.getByRole('link', { name: 'Compare any two' }).click();
    await page.getByLabel('From').selectOption({ index: 2 });
    await page.getByRole('button', { name: 'Compare' }).click();
    await expect(page.locator('.drift')).toContainText('land_contact');
    await accessible(page);
    expect(heard).toEqual([]);
});
