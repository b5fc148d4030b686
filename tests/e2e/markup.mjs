// What a conformance checker says of the pages. Alpine's attributes are no HTML; they are left out of what is looked at.
import { HtmlValidate, StaticConfigLoader } from 'html-validate';

const off = [
    // Matters of style, and advice to write otherwise what conforms.
    'attribute-boolean-style', 'attribute-empty-style', 'doctype-style', 'long-title', 'no-implicit-button-type', 'no-implicit-input-type', 'no-inline-style',
    'no-trailing-whitespace', 'prefer-native-element', 'prefer-tbody', 'require-sri', 'void-style',
];
const rules = {
    ...Object.fromEntries(off.map((rule) => [rule, 'off'])),
    'aria-label-misuse': ['error', { allowAnyNamable: true }],
    'no-raw-characters': ['error', { relaxed: true }],
};
const checker = new HtmlValidate(new StaticConfigLoader({ extends: ['html-validate:recommended'], rules }));
const TAG = /<[a-z][^<>"']*(?:(?:"[^"]*"|'[^']*')[^<>"']*)*>/gi;
const ALPINE = /\s(?:x-[\w:.-]+|@[\w:.-]+|:[a-z][\w.-]*)(?:=(?:"[^"]*"|'[^']*'|[^\s>]+))?(?=[\s/>])/g;
/** What the checker does not know of the standards: which roles an element may have, and how addresses are written. */
const ALSO = [
    ['role', /<input\b(?=[^<>]*\stype="search")(?=[^<>]*\srole="(?!searchbox))/i, 'a search field has no other role'],
    ['url', /\s(?:href|src|action)="(?![^"]*\{\{)[^"]*[\s<>\\^`{|}][^"]*"/i, 'an address holds a sign that is to be escaped'],
    ['url', /\s(?:href|src|action)="[^"]*%(?![0-9A-Fa-f]{2})[^"]*"/i, 'a percent sign begins no escape'],
];

/** What is wrong with a page, in lines. */
export async function faults(html, where) {
    const bare = html.replace(TAG, (tag) => tag.replace(ALPINE, ''));
    const report = await checker.validateString(bare);
    const lines = bare.split('\n');
    const also = ALSO.flatMap(([rule, pattern, message]) => (bare.match(TAG) ?? []).filter((tag) => pattern.test(tag)).map((tag) =>
        `${where} ${rule}: ${message} in ${tag.slice(0, 200)}`));
    return [...also, ...report.results.flatMap(({ messages }) => messages.map(({ line, column, ruleId, message }) =>
        `${where}:${line} ${ruleId}: ${message} in ${(lines[line - 1] ?? '').slice(Math.max(0, column - 40), column + 90).trim()}`))];
}
