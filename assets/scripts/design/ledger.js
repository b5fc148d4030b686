// Things and attributes as rows, by keyboard, and pasted from a spreadsheet. What a row says is a line of the outline.
export class Ledger {
    constructor(root, { mayChange, edit, go }) {
        this.root = root;
        this.mayChange = mayChange;
        this.edit = edit;
        root.addEventListener('change', (event) => this.changed(event));
        root.addEventListener('keydown', (event) => this.key(event));
        root.addEventListener('paste', (event) => this.paste(event));
        root.addEventListener('click', (event) => {
            const line = event.target.closest('[data-line]')?.dataset.line;
            if (line && event.target.closest('a')) {
                event.preventDefault();
                go(Number(line));
            }
        });
    }

    show(things) {
        const focused = this.root.contains(document.activeElement) ? document.activeElement.dataset.cell : null;
        const table = document.createElement('table');
        table.className = 'list ledger-rows';
        table.innerHTML = '<thead><tr><th scope="col">Name</th><th scope="col">What is said of it</th><th scope="col">Meaning</th></tr></thead>';
        for (const thing of things) {
            const body = document.createElement('tbody');
            body.dataset.thing = thing.name;
            body.append(this.head(thing));
            for (const attribute of thing.attributes) {
                body.append(this.row(thing, attribute));
            }
            if (this.mayChange) {
                body.append(this.row(thing, { name: '', said: '', meaning: '' }));
            }
            table.append(body);
        }
        if (this.mayChange) {
            const body = document.createElement('tbody');
            const row = body.insertRow();
            row.className = 'of-thing';
            row.append(this.cell('', 'thing', '', 'New thing', ' + '), this.cell('', 'grain', '', 'one row per …', ' + grain'), document.createElement('td'));
            table.append(body);
        }
        this.root.replaceChildren(table);
        if (focused) {
            this.root.querySelector(`[data-cell="${CSS.escape(focused)}"]`)?.focus();
        }
    }

    head(thing) {
        const row = document.createElement('tr');
        row.className = 'of-thing';
        row.dataset.line = thing.line;
        row.append(
            this.cell(thing.name, 'rename', thing.name, 'Name of the thing', `${thing.name}|thing`),
            this.cell(thing.grain, 'grain', thing.name, 'One row per', `${thing.name}|grain`),
        );
        const told = document.createElement('td');
        told.className = 'faded';
        told.textContent = thing.told.length > 0 ? `told apart by ${thing.told.join('; by ')}` : '';
        row.append(told);
        return row;
    }

    row(thing, attribute) {
        const row = document.createElement('tr');
        row.dataset.attribute = attribute.name;
        row.dataset.thing = thing.name;
        const fresh = attribute.name === '';
        row.append(
            this.cell(attribute.name, 'name', thing.name, fresh ? 'New attribute' : 'Name', `${thing.name}|${attribute.name}|name`),
            this.cell(
                attribute.said, 'said', thing.name, fresh ? 'text up to 80, required' : 'Type, and what is required of it',
                `${thing.name}|${attribute.name}|said`,
            ),
            this.cell(attribute.meaning, 'meaning', thing.name, 'Meaning', `${thing.name}|${attribute.name}|meaning`),
        );
        return row;
    }

    cell(value, part, thing, label, key) {
        const cell = document.createElement('td');
        const input = document.createElement('input');
        input.type = 'text';
        input.value = value;
        input.className = `cell of-${part}`;
        input.dataset.part = part;
        input.dataset.cell = key;
        input.disabled = !this.mayChange;
        input.placeholder = value === '' ? label : '';
        input.setAttribute('aria-label', thing ? `${label}, ${thing}` : label);
        cell.append(input);
        return cell;
    }

    values(row) {
        const of = (part) => row.querySelector(`[data-part="${part}"]`)?.value.trim() ?? '';
        return { name: of('name'), said: of('said'), meaning: of('meaning') };
    }

    changed(event) {
        const { part } = event.target.dataset;
        const row = event.target.closest('tr');
        const thing = event.target.closest('tbody')?.dataset.thing ?? '';
        const value = event.target.value.trim();
        if (part === 'thing') {
            this.edit([{ what: 'add thing', name: value, said: this.grainOf(row) }]);
        } else if (part === 'grain' && thing === '') {
            // It goes with the name of the thing.
        } else if (part === 'rename') {
            this.edit([value === '' ? { what: 'remove thing', of: thing } : { what: 'rename thing', of: thing, name: value }]);
        } else if (part === 'grain') {
            this.edit([{ what: 'set grain', of: thing, said: value }]);
        } else if (row.dataset.attribute === '') {
            const values = this.values(row);
            if (values.name !== '' && (part !== 'name' || values.said !== '')) {
                this.edit([{ what: 'add attribute', of: thing, said: line(values), meaning: values.meaning }]);
            }
        } else {
            const values = this.values(row);
            this.edit([values.name === '' ? { what: 'remove attribute', of: thing, name: row.dataset.attribute }
                : { what: 'set attribute', of: thing, name: row.dataset.attribute, said: line(values), meaning: values.meaning }]);
        }
    }

    grainOf(row) {
        return row.querySelector('[data-part="grain"]')?.value.trim() ?? '';
    }

    key(event) {
        const inputs = [...this.root.querySelectorAll('input')];
        const at = inputs.indexOf(event.target);
        if (at < 0) {
            return;
        }
        const column = [...event.target.closest('tr').cells].indexOf(event.target.closest('td'));
        if (event.key === 'Enter' || event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            const rows = [...this.root.querySelectorAll('tr')].filter((row) => row.querySelector('input'));
            const row = rows.indexOf(event.target.closest('tr'));
            if (event.key === 'Enter' && event.target.closest('tr').dataset.attribute === '') {
                // A new attribute is done with Enter, however little is said of it.
                const values = this.values(event.target.closest('tr'));
                if (values.name !== '') {
                    this.edit([{ what: 'add attribute', of: event.target.closest('tr').dataset.thing, said: line(values), meaning: values.meaning }]);
                    return;
                }
            }
            const next = rows[row + (event.key === 'ArrowUp' ? -1 : 1)];
            (next?.cells[column]?.querySelector('input') ?? next?.querySelector('input'))?.focus();
        }
    }

    /** Rows of a spreadsheet: name, what is said, meaning. */
    paste(event) {
        const text = event.clipboardData?.getData('text/plain') ?? '';
        const thing = event.target.closest('tbody')?.dataset.thing;
        if (!thing || !/[\t\n]/.test(text.trim())) {
            return;
        }
        event.preventDefault();
        const edits = text.split(/\r?\n/).map((row) => row.split('\t').map((cell) => cell.trim())).filter((cells) => cells[0])
            .map(([name, said = '', meaning = '']) => ({ what: 'add attribute', of: thing, said: line({ name, said }), meaning }));
        this.edit(edits);
    }
}

function line({ name, said }) {
    const quoted = /[,;"$]/.test(name) ? `"${name.replace(/"/g, '""')}"` : name;
    return said === '' ? quoted : `${quoted}, ${said}`;
}
