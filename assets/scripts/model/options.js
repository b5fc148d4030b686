// What may stand in the parts of a question.

/** Names, folded as the server folds them. */
export const folded = (text) => text.toLowerCase().replaceAll(/[\s_]+/g, ' ').trim();

export const options = {
    measures(typed) {
        const taken = new Set(this.asked.m.map(folded));
        return this.choices.measures.filter((one) => folded(one.name).includes(typed) && !taken.has(folded(one.name)))
            .map((one) => ({ value: one.name, name: one.name, words: one.words || `of ${one.of}` }));
    },
    attributes(typed) {
        const taken = new Set(this.asked.b.map(folded));
        const asked = this.choices.measures.filter((one) => this.asked.m.map(folded).includes(folded(one.name)));
        return this.choices.attributes.filter((one) => folded(one.name).includes(typed) && !taken.has(folded(one.name)))
            .map((one) => ({ value: one.name, name: one.name, words: one.words || `of ${one.of}`, not: asked.map((of) => of.can[one.of]).find(Boolean) }))
            .toSorted((a, b) => Number(Boolean(a.not)) - Number(Boolean(b.not)));
    },
    conditions(typed, raw) {
        const names = [...this.choices.attributes, ...this.choices.measures.filter((one) => this.asked.m.map(folded).includes(folded(one.name)))];
        const whole = names.filter((one) => typed === folded(one.name) || typed.startsWith(`${folded(one.name)} `))
            .toSorted((a, b) => b.name.length - a.name.length)[0];
        if (!whole) {
            return names.filter((one) => folded(one.name).includes(typed))
                .map((one) => ({ value: `${one.name} `, name: one.name, words: one.words || `of ${one.of}`, on: true }));
        }
        const rest = raw.trim().slice(whole.name.length).trimStart();
        const { tests } = this.choices;
        const next = tests.filter((test) => test.words.startsWith(rest) && test.words !== rest || rest === '');
        const done = tests.some((test) => (test.takes ? rest.startsWith(`${test.words} `) && rest.length > test.words.length + 1 : rest === test.words));
        return [
            ...done ? [{ value: raw.trim(), name: raw.trim(), words: 'take it' }] : [],
            ...next.map((test) => ({
                value: `${whole.name} ${test.words}${test.takes ? ' ' : ''}`, name: test.words, words: test.help, on: test.takes,
            })),
        ];
    },
    orders(typed) {
        return [...this.asked.m, ...this.asked.b]
            .flatMap((name) => [{ value: `-${name}`, name: `${name}, the greatest first`, words: '' }, { value: name, name, words: 'the least first' }])
            .filter((one) => folded(one.name).includes(typed));
    },
    numbers(typed) {
        const many = /^\d+$/.test(typed) ? [typed] : ['5', '10', '20', '50', '100'];
        return [...many.map((n) => ({ value: n, name: `the first ${n} rows`, words: '' })), { value: '', name: 'all rows', words: '' }];
    },
};
