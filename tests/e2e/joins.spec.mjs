// Joins: what the demo has, stated by hand, routes, loops, areas.
import { execFileSync } from 'node:child_process';
import { expect, test } from './listening.mjs';
import { accessible, atWork, complaints, fits, openEntry, signIn } from './help.mjs';

const choose = async (page, source) => {
    await page.goto('/register/joins');
    await page.getByLabel('Source', { exact: true }).selectOption({ label: source });
    await expect(page).toHaveURL(/source=\d+/);
};

test('what the demo does not declare is found with what speaks for it, and a verb is written', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await choose(page, 'fieldwork');
    const ends = await page.locator('.proposal .ends').allTextContents();
    for (const join of [
        'calibration.done_by → person.id', 'visit.team_id → team.id', 'reading.flag → quality_flag.code', 'sighting.speciesCode → species.code',
        'access_permit.landowner_no → landowner.LandownerNo', 'sample.stn_ref → station.code', 'incident.stn_ref → station.id',
            'reading.deployment_ref → deployment.id',
        'alert_rule.site → station.id', 'lab_result.(lab_code, method_code) → method.(lab_code, method_code)', 'alert.subject_id → station.id',
            'alert.subject_id → barrier.id',
        'reading_2023.station → station.id', 'reading_2024.parameter → parameter.code',
    ]) {
        expect(ends.map((text) => text.trim())).toContain(join);
    }
    await expect(page.locator('.proposal', { hasText: 'barrier.id' })).toContainText('where subject_kind is barrier');
    const row = page.locator('.proposal', { hasText: 'reading.deployment_ref' });
    await row.click();
    const panel = page.locator('[data-panel]:visible');
    await expect(panel).toContainText('9 lead nowhere');
    await expect(panel).toContainText('the database comment names deployment');
    await page.keyboard.press('e');
    await page.keyboard.type('comes from');
    await page.keyboard.press('Enter');
    await expect(page.locator('.saved')).toHaveText('Saved');
    await row.focus();
    await page.keyboard.press('Enter');
    await expect(row.locator('.mark-decided')).toHaveText('taken');
    await row.click();
    await page.keyboard.press('o');
    await expect(page.locator('h1.sentence')).toContainText('A reading comes from at most one deployment');
    await expect(page.locator('.facts')).toContainText('stated: at most one; observed: at most one');
    await accessible(page);
    await fits(page);
    await page.setViewportSize({ width: 1024, height: 768 });
    await fits(page);
    await openEntry(page, 'reading');
    await expect(page.locator('ul.joins').first()).toContainText('comes from');
    expect(heard).toEqual([]);
});

test('a join of two fields is stated by hand, by keyboard alone', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await openEntry(page, 'lab_result');
    await page.getByRole('link', { name: 'state a join' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('The entry it leads to')).toBeFocused();
    await page.keyboard.type('method');
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Field 1 of lab_result')).toHaveValue('lab_code');
    await expect(page.getByLabel('Field 2 of lab_result')).toHaveValue('method_code');
    await accessible(page);
    await page.getByRole('button', { name: 'State it' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('h1.sentence')).toContainText('A lab result');
    await expect(page.locator('.facts').first()).toContainText('documented');
    await page.getByLabel('Decision').selectOption('');
    await expect(page.locator('.saved')).toHaveText('Saved');
    expect(heard).toEqual([]);
});

test('a route is asked for, its SQL runs against the source, and loops tell whether they agree', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.keyboard.press('/');
    await page.keyboard.type('reading to catchment');
    await page.getByRole('option', { name: 'How to get from Reading to Catchment' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/From reading to catchment/i);
    await expect(page.locator('.chain').first()).toBeVisible();
    await accessible(page);
    await fits(page);
    const sql = await page.locator('pre').first().textContent();
    await page.getByRole('button', { name: 'Count the rows after each step' }).first().click();
    await expect(page.locator('.steps-of').first()).toContainText('118,368 rows to begin with', atWork);
    await expect(page.locator('.steps-of').first()).toContainText('118,368 rows after it');
    const count = execFileSync('mariadb', [`--socket=${execFileSync('cat', ['var/run/database.socket']).toString().trim()}`, '-uroot', '-N', '-e',
        sql.replace('SELECT *', 'SELECT COUNT(*)')]).toString().trim();
    expect(count).toBe('118368');

    await page.goto('/register/loops');
    await page.getByRole('button', { name: 'Ask the data' }).click();
    const loop = page.locator('.loops tr', { hasText: 'deployment_ref' });
    await expect(loop).toContainText('both agree', atWork);
    await expect(page.locator('.loops tr', { hasText: 'person_id' })).toContainText('of 100 agree');
    await expect(page.locator('.loops tr').nth(1)).toContainText('refers to another row of the same');
    await accessible(page);
    await page.goto('/search?q=order+to+station');
    await page.getByRole('link', { name: /How to get from/ }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('No route from');
    await expect(page.locator('main')).toContainText('Nothing is joined to it.');
    expect(heard).toEqual([]);
});

test('areas are taken and narrow the register, and kinds are decided', async ({ page }) => {
    const heard = complaints(page);
    await signIn(page);
    await page.goto('/register/areas');
    await accessible(page);
    const first = page.locator('.area.draft').first();
    await first.getByLabel('Name of the area').fill('What is measured');
    await first.getByRole('button', { name: 'Take it' }).click();
    await page.getByRole('link', { name: 'What is measured' }).click();
    await expect(page.locator('.list.entries tbody tr').nth(1)).toBeVisible();
    await page.goto('/register/keys');
    await fits(page);
    await accessible(page);
    await page.getByLabel('Kind of access_permit').selectOption('link');
    await expect(page.locator('.saved')).toHaveText('Saved');
    await page.goto('/register/keys?kind=link');
    await expect(page.locator('.keys-list')).toContainText('access_permit');
    expect(heard).toEqual([]);
});
