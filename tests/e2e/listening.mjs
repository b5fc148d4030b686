// Keys go to a page that listens: what is typed before its scripts have run is lost, on a slow machine more often than on a quick one.
import { expect, test as plain } from '@playwright/test';

export const test = plain.extend({
    page: async ({ page }, use) => {
        for (const deed of ['press', 'type']) {
            const own = page.keyboard[deed].bind(page.keyboard);
            page.keyboard[deed] = async (...given) => {
                await page.waitForLoadState('load');
                return own(...given);
            };
        }
        await use(page);
    },
});
export { expect };
