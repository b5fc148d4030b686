// Every kind of page is valid HTML, in the application and in a published edition.
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from './listening.mjs';
import { signIn } from './help.mjs';
import { faults } from './markup.mjs';

/** Pages of one kind differ in numbers, names and questions only; so many of each are looked at. */
const EACH = 3;
const kindOf = (url) => url.pathname.replace(/\/[^/]*\d[^/]*(?=\/|$)/g, '/#')
    + [...new Set([...url.searchParams.keys()])].sort().map((key) => `?${key}`).join('');

test('every kind of page of the application is valid HTML', async ({ page, baseURL }) => {
    test.setTimeout(300000);
    const found = [];
    const seen = new Map();
    const look = async (url, enqueue) => {
        const response = await page.request.get(url.href);
        if (!response.ok() || !(response.headers()['content-type'] ?? '').startsWith('text/html')) {
            return;
        }
        const html = await response.text();
        found.push(...await faults(html, url.pathname + url.search));
        for (const [, link] of html.matchAll(/<a\b[^>]*\shref="([^"#][^"]*)"/g)) {
            enqueue(new URL(link.replaceAll('&amp;', '&'), url));
        }
    };
    const crawl = async (starts) => {
        const queue = starts.map((path) => new URL(path, baseURL));
        const known = new Set(queue.map(String));
        for (let url = queue.shift(); url; url = queue.shift()) {
            const kind = kindOf(url);
            seen.set(kind, (seen.get(kind) ?? 0) + 1);
            if (seen.get(kind) > EACH) {
                continue;
            }
            await look(url, (next) => {
                next.hash = '';
                if (next.origin === url.origin && !/sign-out|\.(?:zip|csv|json|svg|png|sql|txt|md|html)$/.test(next.pathname) && !known.has(next.href)) {
                    known.add(next.href);
                    queue.push(next);
                }
            });
        }
    };
    await crawl(['/sign-in']);
    await signIn(page, 'ren');
    seen.clear();
    await crawl(['/', '/desk', '/register', '/sources', '/editions', '/accounts', '/account', '/nowhere']);
    expect([...seen.keys()].length).toBeGreaterThan(60);
    expect(found).toEqual([]);
});

test('every kind of page of a published edition is valid HTML', async () => {
    test.setTimeout(300000);
    const folder = readFileSync('var/e2e/folder', 'utf8');
    const all = readdirSync(folder, { recursive: true }).filter((name) => name.endsWith('.html'));
    expect(all.length).toBeGreaterThan(40);
    // Those of one folder are of one kind; the first and the last of many are looked at.
    const folders = {};
    for (const name of all.toSorted()) {
        (folders[name.replace(/[^/]*$/, '')] ??= []).push(name);
    }
    const pages = Object.values(folders).flatMap((names) => names.length > 12 ? [...names.slice(0, 8), ...names.slice(-4)] : names);
    const found = [];
    for (const name of pages) {
        found.push(...await faults(readFileSync(join(folder, name), 'utf8'), name));
    }
    expect(found).toEqual([]);
});
