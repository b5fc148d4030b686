import { AxeBuilder } from '@axe-core/playwright';
import { expect } from '@playwright/test';

const PASSWORDS = { oona: 'steward-oona', ren: 'keeper-ren-1', ida: 'reader-ida-1' };

export async function signIn(page, who = 'oona') {
    await page.goto('/sign-in');
    await page.getByLabel('E-mail').fill(`${who}@arrowmere.example`);
    await page.getByLabel('Password').fill(PASSWORDS[who]);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page).toHaveURL(who === 'ida' ? /\/register$/ : /\/desk$/);
}

/** Nothing that keeps people out, in either theme. */
export async function accessible(page) {
    for (const colorScheme of ['light', 'dark']) {
        await page.emulateMedia({ colorScheme });
        const rules = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
        const { violations } = await new AxeBuilder({ page }).withTags(rules).options({ preload: false }).analyze();
        expect(violations.map((found) => `${colorScheme} ${found.id}: ${found.nodes.slice(0, 3).map((node) => node.target.join(' ')).join(', ')}`)).toEqual([]);
    }
    await page.emulateMedia({ colorScheme: 'light' });
}

/** The page does not scroll sideways. */
export async function fits(page) {
    expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBeLessThanOrEqual(0);
}

/** Collects whatever a page complains of, refused by the content security policy or broken. */
export function complaints(page) {
    const heard = [];
    page.on('pageerror', (error) => heard.push(`${error.message} ${error.stack ?? ''}`));
    page.on('console', (message) => { if (message.type() === 'error') { heard.push(message.text()); } });
    return heard;
}

export async function openEntry(page, name) {
    await page.goto(`/register?source=1&q=${name}`);
    await page.getByRole('link', { name, exact: true }).click();
    await expect(page.locator('.ledger')).toBeVisible();
}

/** For what a worker does, which takes as long as the machine needs: the clock of the test is the only one. */
export const atWork = { timeout: 240000 };

export const meaning = (page, field) => page.locator('[data-row]')
    .filter({ has: page.getByRole('button', { name: field, exact: true }) })
    .locator('[data-text][data-property=meaning]');
