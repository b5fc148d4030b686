// What may stand in the parts of a question.

/** Names, folded as the server folds them. */
export const folded = (text) => text.toLowerCase().replaceAll(/[\s_]+/g, ' ').trim();

/** Whether what is typed is in the name of something, or in another word for it. */
const meant = (one, typed) => [one.name, ...one.also ?? []].some((word) => folded(word).includes(typed));

/** What would end a value, or be read as a part of the words before it. */
const ENDS = /[,'()]|^ | $| and | or |^(?:not|none|given|one of|at least|at most|over|under|between|in)\b/i;

export const options = {
    measures(typed, raw) {
        const taken = new Set(this.asked.m.map(folded));
        const all = [
            ...this.choices.measures.map((one) => ({ value: one.name, name: one.name, words: one.words || `of ${one.of}`, also: one.also })),
            ...(this.beside ?? []).map((one) => ({ value: one.value, name: one.value, words: one.words })),
        ].filter((one) => meant(one, typed) && !taken.has(folded(one.name)));
        // Any other time before is said by whoever types it.
        return all.length === 0 && /before|share|rank|running/.test(typed) ? [{ value: raw.trim(), name: raw.trim(), words: 'take it' }] : all;
    },
    attributes(typed) {
        const taken = new Set(this.asked.b.map(folded));
        const asked = this.choices.measures.filter((one) => this.asked.m.map(folded).includes(folded(one.name)));
        return this.choices.attributes.filter((one) => meant(one, typed) && !taken.has(folded(one.name)))
            .map((one) => ({ value: one.name, name: one.name, words: one.words || `of ${one.of}`, not: asked.map((of) => of.can[one.of]).find(Boolean) }))
            .toSorted((a, b) => Number(Boolean(a.not)) - Number(Boolean(b.not)));
    },
    conditions(typed, raw) {
        const names = [...this.choices.attributes, ...this.asked.m.map((name) => ({ name, words: 'a figure of the answer' }))];
        const whole = names.filter((one) => typed === folded(one.name) || typed.startsWith(`${folded(one.name)} `))
            .toSorted((a, b) => b.name.length - a.name.length)[0];
        if (!whole) {
            return names.filter((one) => folded(one.name).includes(typed))
                .map((one) => ({ value: `${one.name} `, name: one.name, words: one.words || `of ${one.of}`, on: true }));
        }
        const rest = raw.trim().slice(whole.name.length).trimStart();
        const { tests } = this.choices;
        const values = this.codes(whole, rest);
        if (values.length > 0) {
            return values;
        }
        const next = tests.filter((test) => test.words.startsWith(rest) && test.words !== rest || rest === '');
        const done = tests.some((test) => (test.takes ? rest.startsWith(`${test.words} `) && rest.length > test.words.length + 1 : rest === test.words));
        return [
            ...done ? [{ value: raw.trim(), name: raw.trim(), words: 'take it' }] : [],
            ...next.map((test) => ({
                value: `${whole.name} ${test.words}${test.takes ? ' ' : ''}`, name: test.words, words: test.help, on: test.takes,
            })),
        ];
    },
    /** What stands for a code is written by those who know it; the code is taken where two have the same label. */
    codes(attribute, rest) {
        const [, test, before, begun] = /^(is not one of|is one of|is not|is) (.*, )?(.*)$/.exec(rest) ?? [];
        if (test === undefined || !attribute.codes?.length ) {
            return [];
        }
        const many = test.endsWith('one of');
        const labels = attribute.codes.map((one) => one.label);
        const written = (one) => {
            const value = one.label === '' || labels.indexOf(one.label) !== labels.lastIndexOf(one.label) ? one.code : one.label;
            return ENDS.test(value) ? `'${value.replaceAll("'", "''")}'` : value;
        };
        const sought = folded(begun);
        return attribute.codes
            .filter((one) => [one.label, one.code].some((word) => folded(word).includes(sought)) && sought !== folded(written(one)))
            .map((one) => ({
                value: `${attribute.name} ${test} ${many ? before ?? '' : ''}${written(one)}`, name: one.label || one.code, words: one.code, on: many,
            }));
    },
    orders(typed) {
        return [...this.asked.m, ...this.asked.b]
            .flatMap((name) => [{ value: `-${name}`, name: `${name}, the greatest first`, words: '' }, { value: name, name, words: 'the least first' }])
            .filter((one) => folded(one.name).includes(typed));
    },
    numbers(typed) {
        const number = /^\d+/.exec(typed);
        const many = number ? [number[0]] : ['5', '10', '20', '50', '100'];
        const of = this.asked.b.length > 1 ? this.asked.b : [];
        return [
            ...many.map((n) => ({ value: n, name: `the first ${n} rows`, words: '' })),
            ...many.slice(0, 2).flatMap((n) => [
                { value: `${n} and the others`, name: `the first ${n} and the others`, words: 'what is left as one row' },
                ...of.map((name) => ({ value: `${n} of each ${name}`, name: `the first ${n} of each ${name}`, words: '' })),
                ...of.map((name) => ({
                    value: `${n} of each ${name} and the others`,
                    name: `the first ${n} of each ${name} and the others`,
                    words: 'what is left of each as one row',
                })),
            ]),
            { value: '', name: 'all rows', words: '' },
        ];
    },
    subtotals() {
        const words = 'of what comes first, computed of the rows once more';
        return [{ value: '1', name: 'subtotals', words }, { value: '', name: 'no subtotals', words: '' }];
    },
};
