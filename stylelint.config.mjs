export default {
    customSyntax: 'postcss-scss',
    rules: {
        'block-no-empty': true,
        'color-no-invalid-hex': true,
        'declaration-block-no-duplicate-properties': [true, { ignore: ['consecutive-duplicates'] }],
        'declaration-block-no-shorthand-property-overrides': true,
        'declaration-block-single-line-max-declarations': 1,
        'no-duplicate-at-import-rules': true,
        'no-invalid-double-slash-comments': true,
        'property-no-unknown': true,
        'selector-pseudo-class-no-unknown': true,
        'unit-no-unknown': true,
    },
};
