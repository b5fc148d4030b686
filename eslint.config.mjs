import js from '@eslint/js';

const browser = Object.fromEntries([
    'window', 'document', 'location', 'history', 'localStorage', 'sessionStorage', 'navigator', 'fetch',
    'setTimeout', 'clearTimeout', 'setInterval', 'clearInterval',
    'requestAnimationFrame', 'performance', 'crypto', 'Promise', 'URL', 'URLSearchParams', 'FormData', 'CustomEvent', 'Event', 'Element', 'CSS', 'DOMPoint',
    'matchMedia', 'getComputedStyle', 'DOMParser', 'CSSStyleSheet',
].map((name) => [name, 'readonly']));
const node = Object.fromEntries(['process', 'console', 'setTimeout', 'Buffer'].map((name) => [name, 'readonly']));

export default [
    js.configs.recommended,
    {
        rules: {
            eqeqeq: 'error',
            'no-var': 'error',
            'prefer-const': 'error',
            'no-unused-vars': ['error', { args: 'none' }],
            'no-unused-expressions': 'error',
            'no-nested-ternary': 'error',
            complexity: ['error', 20],
            'max-params': ['error', 8],
        },
    },
    { files: ['assets/scripts/**/*.js'], rules: { 'max-lines': ['error', 250] } },
    { files: ['assets/scripts/**/*.js'], languageOptions: { globals: browser } },
    { files: ['**/*.mjs'], languageOptions: { globals: { ...node, ...browser } } },
];
