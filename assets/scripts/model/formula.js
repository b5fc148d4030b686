import { HEADERS, html, later } from '../ask.js';

/** What a model offers: hierarchies are looked for in the data when somebody asks. */
export const model = () => ({
    init() {
        if (location.hash.startsWith('#m-')) {
            document.getElementById(location.hash.slice(1))?.setAttribute('open', '');
        }
    },
    /** The form of a part is fetched when the part is opened: a model may have hundreds. */
    async opened(event) {
        const part = event.target;
        if (part.open && part.dataset.form && !part.querySelector(':scope > form')) {
            const form = document.createElement('div');
            form.innerHTML = await html(part.dataset.form);
            part.append(...form.children);
        }
    },
    async find(event) {
        this.$refs.hierarchies.textContent = 'Looking at the data …';
        this.$refs.hierarchies.innerHTML = await html(event.target.dataset.find);
    },
});

/** A form with expressions: they are read as they are typed, and completed. */
export const formula = () => ({
    kind: 'plain',
    some: false,
    reasoned: false,
    init() {
        this.chosen();
        this.all = JSON.parse(this.$root.closest('[data-completions]')?.dataset.completions ?? '{}');
        this.check = later(250, async (input) => {
            const asked = new URLSearchParams({ role: this.of(input), text: input.value });
            // What is added up has to stand in the rows that it is taken of; a filter does not.
            if (input.name === 'expression' && this.$refs.aggregation) {
                asked.append('aggregation', this.$refs.aggregation.value);
            }
            const url = `${this.$root.dataset.url}?${asked}`;
            const said = await (await fetch(url, { headers: HEADERS })).json();
            const says = this.of(input) === '' ? this.$refs.computedSays : this.$refs.says;
            says.textContent = said.faults.length > 0 ? said.faults.map((fault) => fault.words).join(' ') : said.words;
            says.classList.toggle('rubric', Boolean(said.wrong));
        });
        this.$refs.list.addEventListener('pointerdown', (event) => {
            const item = event.target.closest('[data-text]');
            if (item) {
                event.preventDefault();
                this.complete(item.dataset.text);
            }
        });
        this.$root.addEventListener('focusout', () => { this.$refs.list.hidden = true; });
    },
    /** The role whose fields an input is about; '' where it is about measures. */
    of(input) {
        return input.dataset.of ?? this.$root.dataset.role;
    },
    chosen() {
        const option = this.$refs.aggregation?.selectedOptions[0];
        this.kind = option?.dataset.ofMeasures === undefined ? 'plain' : option.value;
        this.some = this.$refs.adds?.value === 'some';
        this.reasoned = this.some || this.$refs.adds?.value === 'none';
        if (this.input?.name === 'expression') {
            this.check(this.input);
        }
    },
    /** The word that the cursor stands at the end of. */
    word(input) {
        return /[\w."]*$/.exec(input.value.slice(0, input.selectionStart))[0];
    },
    typed(event) {
        this.input = event.target;
        const word = this.word(this.input).toLowerCase();
        const all = this.all[this.of(this.input)] ?? [];
        const found = word === '' ? [] : all.filter((one) => one.text.toLowerCase().includes(word) && one.text.toLowerCase() !== word)
            .toSorted((a, b) => Number(b.text.toLowerCase().startsWith(word)) - Number(a.text.toLowerCase().startsWith(word))).slice(0, 8);
        this.$refs.list.replaceChildren(...found.map((one, i) => {
            const item = document.createElement('li');
            item.dataset.text = one.text;
            item.classList.toggle('now', i === 0);
            const text = document.createElement('b');
            text.textContent = one.text;
            const words = document.createElement('span');
            words.textContent = one.words;
            item.append(text, words);
            return item;
        }));
        this.$refs.list.hidden = found.length === 0;
        this.$refs.list.style.top = `${this.input.offsetTop + this.input.offsetHeight + 2}px`;
        this.$refs.list.style.left = `${this.input.offsetLeft}px`;
        this.check(this.input);
    },
    keyed(event) {
        if (this.$refs.list.hidden) {
            return;
        }
        const items = [...this.$refs.list.children];
        const now = items.findIndex((item) => item.classList.contains('now'));
        if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            items[now].classList.remove('now');
            items[(now + (event.key === 'ArrowDown' ? 1 : items.length - 1)) % items.length].classList.add('now');
        } else if (event.key === 'Tab' || event.key === 'Enter') {
            event.preventDefault();
            this.complete(items[now].dataset.text);
        } else if (event.key === 'Escape') {
            event.stopPropagation();
            this.$refs.list.hidden = true;
        }
    },
    complete(text) {
        const at = this.input.selectionStart;
        const word = this.word(this.input);
        this.input.setRangeText(text, at - word.length, at, 'end');
        this.$refs.list.hidden = true;
        this.check(this.input);
    },
});
