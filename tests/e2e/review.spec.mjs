// Sixty joins reviewed by keyboard.
import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from './listening.mjs';
import { accessible, atWork, complaints, fits, signIn } from './help.mjs';

const folder = mkdtempSync(join(tmpdir(), 'fasti-joins-'));
const database = join(folder, 'many.sqlite');
const words = ['alder', 'birch', 'cedar', 'dale', 'elm', 'fern', 'glen', 'hazel', 'iris', 'juniper', 'knoll', 'linden'];

/** Twelve tables and five that refer to each by name: sixty joins that nothing declares. */
function many() {
    const sql = words.flatMap((word) => [`CREATE TABLE ${word} (id integer PRIMARY KEY, title text);`,
        `WITH RECURSIVE s(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM s WHERE n < 40) INSERT INTO ${word} SELECT n, 'x' FROM s;`]);
    for (let i = 0; i < 5; i += 1) {
        sql.push(`CREATE TABLE count_${i} (id integer PRIMARY KEY, ${words.map((word) => `${word}_id integer`).join(', ')});`);
        sql.push(`WITH RECURSIVE s(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM s WHERE n < 200) INSERT INTO count_${i} SELECT n, ${words.map((_, k) =>
            `(n * ${k + 3}) % 40 + 1`).join(', ')} FROM s;`);
    }
    execFileSync('sqlite3', [database], { input: sql.join('\n') });
}

const choose = async (page, source) => {
    await page.goto('/register/joins');
    await page.getByLabel('Source', { exact: true }).selectOption({ label: source });
    await expect(page).toHaveURL(/source=\d+/);
};

test('sixty proposals are reviewed by keyboard, and taken back', async ({ page }) => {
    many();
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/sources/new');
    await page.getByLabel('Name').fill('many');
    await page.getByRole('radio', { name: 'SQLite', exact: true }).check({ force: true });
    await page.getByLabel('Hand in').setInputFiles(database);
    await page.getByRole('button', { name: 'Save and choose what to read' }).click();
    await page.getByRole('button', { name: 'Keep this choice and survey' }).click();
    await expect(page.getByRole('heading', { name: 'What the survey found' })).toBeVisible(atWork);

    await choose(page, 'many');
    await expect(page.getByRole('heading', { name: 'No join waits for a decision' })).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Look for joins' }).click();
    await expect(page.locator('.review-head')).toContainText('60 joins proposed', atWork);
    await expect(page.locator('.proposal')).toHaveCount(60);
    await accessible(page);
    await fits(page);

    await expect(page.locator('.proposal.now')).toHaveCount(1);
    for (let i = 0; i < 60; i += 1) {
        await expect(page.locator('.proposal').nth(i)).toHaveClass(/now/);
        await page.keyboard.press(i % 10 === 9 ? 'x' : 'Enter');
        await expect(page.locator('.proposal').nth(i).locator('.mark-decided')).toHaveText(i % 10 === 9 ? 'dismissed' : 'taken');
    }
    await expect(page.locator('.foot')).toContainText('60 of 60 decided');
    await page.keyboard.press('Control+z');
    await expect(page.locator('.foot')).toContainText('59 of 60 decided');
    await expect(page.locator('.saved')).toHaveText('Taken back');

    await choose(page, 'many');
    await expect(page.locator('.review-head')).toContainText('1 join proposed');
    await expect(page.locator('.review-head')).toContainText('54 documented');
    await expect(page.locator('.review-head')).toContainText('5 dismissed');
    await page.getByRole('textbox', { name: 'Confidence' }).fill('0.2');
    await page.getByRole('button', { name: 'take …' }).click();
    const taking = page.getByRole('dialog', { name: 'What would be taken' });
    await expect(taking).toContainText('you dismissed');
    await taking.getByRole('checkbox').first().setChecked(false);
    await expect(taking.getByRole('button', { name: 'Take these 0' })).toBeDisabled();
    await taking.getByRole('checkbox').first().setChecked(true);
    await taking.getByRole('button', { name: 'Take this one' }).click();
    await expect(page.locator('.saved')).toHaveText('One taken');
    await page.keyboard.press('u');
    await expect(page.locator('.saved')).toHaveText('Taken back');
    expect(heard).toEqual([]);
});
