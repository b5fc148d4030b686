import js from '@eslint/js';

const browser = Object.fromEntries(['window', 'document', 'location', 'history', 'localStorage', 'fetch', 'setTimeout', 'clearTimeout', 'Promise', 'URL', 'URLSearchParams', 'FormData', 'CustomEvent', 'Element', 'matchMedia', 'getComputedStyle', 'crypto', 'setInterval', 'performance', 'CSS', 'DOMPoint', 'sessionStorage', 'navigator', 'requestAnimationFrame', 'Buffer'].map((name) => [name, 'readonly']));
const node = Object.fromEntries(['process', 'console', 'setTimeout'].map((name) => [name, 'readonly']));

export default [
    js.configs.recommended,
    { rules: { eqeqeq: 'error', 'no-var': 'error', 'prefer-const': 'error', 'no-unused-vars': ['error', { args: 'none' }], 'no-unused-expressions': 'off' } },
    { files: ['assets/scripts/**/*.js'], languageOptions: { globals: browser } },
    { files: ['**/*.mjs'], languageOptions: { globals: { ...node, ...browser } } },
];
