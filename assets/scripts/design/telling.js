// What is said beside a design: what was noticed, what is to be asked, and which rules hold.

export const telling = {
    told() {
        const { counts, faults, findings } = this.sight;
        const many = (n, one, more) => `${n} ${n === 1 ? one : more}`;
        this.root.querySelector('[data-counts]').textContent = `${many(counts.things, 'thing', 'things')}`
            + ` · ${many(counts.attributes, 'attribute', 'attributes')}`
            + `${counts.asked ? ` · ${counts.asked} to be asked` : ''}${faults.length ? ' ·' : ''}`;
        const link = this.root.querySelector('[data-faults]');
        link.hidden = faults.length === 0;
        link.textContent = `${many(faults.length, 'line', 'lines')} not understood`;
        this.editor.faults(faults);
        this.editor.notes(findings.filter((finding) => finding.line > 0));
        if (this.sight.things && this.ledgered()) {
            this.ledger.show(this.sight.things);
        }
        this.noticed(findings);
        this.questions();
        this.ruled();
        const empty = this.root.querySelector('[data-empty]');
        empty.hidden = counts.things > 0;
        empty.textContent = this.mayChange
            ? 'What is it about? Write the name of a thing at the margin, and below it, further in, what is known of it.'
            : 'Nothing is written yet.';
        this.drawing.root.classList.toggle('behind', faults.length > 0);
    },

    noticed(findings) {
        const box = this.root.querySelector('[data-noticed]');
        const asked = new Set(this.sight.asked.map((question) => question.text));
        box.replaceChildren();
        if (findings.length === 0) {
            return;
        }
        const title = document.createElement('h2');
        title.textContent = `Noticed: ${findings.length}`;
        const list = document.createElement('ul');
        for (const finding of findings) {
            const item = document.createElement('li');
            item.className = finding.serious ? 'serious' : '';
            if (finding.line > 0) {
                const line = document.createElement('a');
                line.href = '#';
                line.dataset.go = finding.line;
                line.textContent = `line ${finding.line}`;
                item.append(line, ' ');
            }
            item.append(finding.words, ' ');
            const todo = document.createElement('span');
            todo.className = 'faded';
            todo.textContent = finding.todo;
            item.append(todo);
            if (finding.ask && this.mayChange && !asked.has(finding.ask)) {
                const ask = document.createElement('button');
                ask.type = 'button';
                ask.className = 'link';
                ask.dataset.ask = finding.ask;
                ask.dataset.about = finding.about;
                ask.textContent = 'Note it as a question';
                ask.title = finding.ask;
                item.append(' ', ask);
            }
            list.append(item);
        }
        box.append(title, list);
    },

    questions() {
        const box = document.querySelector('#design-questions [data-questions]');
        if (box.contains(document.activeElement)) {
            return;
        }
        box.replaceChildren();
        for (const question of this.sight.asked) {
            const one = document.createElement('div');
            one.className = 'question';
            const words = document.createElement('p');
            words.textContent = question.text;
            const of = document.createElement('span');
            of.className = 'faded';
            of.textContent = question.of ? ` (${question.of})` : '';
            words.append(of);
            one.append(words);
            for (const [part, label, value] of [['answer', 'Answer', question.answer], ['by', 'By whom', question.by]]) {
                const input = document.createElement('input');
                input.className = 'form-control';
                input.value = value;
                input.placeholder = label;
                input.setAttribute('aria-label', `${label}: ${question.text}`);
                input.setAttribute(`data-${part}`, '');
                input.dataset.question = question.text;
                input.disabled = !this.mayChange;
                one.append(input);
            }
            box.append(one);
        }
        if (this.sight.asked.length === 0) {
            const none = document.createElement('p');
            none.className = 'faded';
            none.textContent = 'Nothing is to be asked yet.';
            box.append(none);
        }
    },

    /** Shows which setting each rule has, by the lines of the design's block. */
    ruled() {
        const lines = this.editor.text().split('\n').map((line) => line.trim());
        const said = (sentence) => lines.some((line) => line === sentence || line.startsWith(`${sentence}, as `) || line.startsWith(`${sentence}, computed `));
        for (const [rule, [, settings]] of Object.entries(this.rules)) {
            const set = Object.keys(settings).find((setting) => said(settings[setting])) ?? Object.keys(settings)[0];
            const input = document.querySelector(`input[name="rule-${rule}"][value="${set}"]`);
            if (input && !document.querySelector(`[data-rule="${rule}"] [data-preview]:not([hidden])`)) {
                input.checked = true;
            }
        }
        const engine = document.querySelector(`[data-engine] option[data-name="${this.sight.engine}"]`);
        if (engine) {
            engine.selected = true;
            this.root.querySelector('[data-depth-choice="physical"]').textContent = `tables of ${engine.value}`;
        }
    },

    async rule(event) {
        if (event.target.matches('[data-engine]')) {
            this.edit([{ what: 'set engine', said: event.target.value }]);
            return;
        }
        const field = event.target.closest('[data-rule]');
        if (!field) {
            return;
        }
        const box = field.querySelector('[data-preview]');
        const { rule } = field.dataset;
        const setting = event.target.value;
        const done = await this.ask('preview', { text: this.editor.text(), rule, setting });
        if (!done) {
            return;
        }
        const list = document.createElement('ul');
        for (const words of done.words) {
            const item = document.createElement('li');
            item.textContent = words;
            list.append(item);
        }
        const use = document.createElement('button');
        use.type = 'button';
        use.className = 'btn btn-primary small';
        use.dataset.use = setting;
        use.dataset.rule = rule;
        use.textContent = 'Let it be so';
        box.replaceChildren(list, use);
        box.hidden = false;
    },
};
