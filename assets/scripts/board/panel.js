// The margin of a diagram: what is said of a tablet or a line, what can be added, a query. It is there only while it says something.
import { later } from '../ask.js';

export class Panel {
    constructor(element, board) {
        this.element = element;
        this.board = board;
        element.addEventListener('click', (event) => this.click(event));
        element.addEventListener('dragstart', (event) => {
            const row = event.target.closest('button[data-add]');
            if (row) {
                event.dataTransfer.setData('text/fasti-entry', row.dataset.add);
            }
        });
        element.addEventListener('keydown', (event) => this.key(event));
        element.addEventListener('change', (event) => this.changed(event));
    }

    show(content) {
        this.element.innerHTML = content;
        this.element.hidden = false;
        (this.element.querySelector('[autofocus]') ?? this.element.querySelector('h2'))?.focus();
    }

    close() {
        if (this.element.hidden) {
            return false;
        }
        this.element.hidden = true;
        this.element.innerHTML = '';
        this.board.line = null;
        this.board.point(null);
        this.board.frame.focus({ preventScroll: true });
        return true;
    }

    template(name) {
        this.show(this.board.root.querySelector(`template[data-panel="${name}"]`).innerHTML);
    }

    url(name) {
        return this.board.root.dataset[name];
    }

    async join(id) {
        this.show(await this.board.ask(this.url('join').replace('/0', `/${id}`)));
    }

    async about() {
        this.show(await this.board.ask(this.url('about')));
    }

    async leads(id) {
        if (id) {
            this.show(await this.board.ask(this.url('leads').replace('/0', `/${id}`), { inside: this.board.inside() }));
        }
    }

    async tablet(key) {
        this.show(await this.board.ask(this.url('tablet').replace('/0', `/${key.slice(1)}`), { inside: this.board.inside() }));
    }

    async fields(entries) {
        if (entries.length === 0) {
            return;
        }
        this.show(await this.board.ask(this.url('fields').replace('/0', `/${entries[0]}`)));
        const piece = this.board.pieces[`t${entries[0]}`] ?? {};
        const level = piece.fields ? 'picked' : piece.shows ?? '';
        this.element.querySelectorAll('[name=shows]').forEach((each) => { each.checked = each.value === level; });
        this.element.querySelectorAll('[name=field]').forEach((each) => { each.checked = (piece.fields ?? []).includes(each.value); });
    }

    async query(entries) {
        this.show(await this.board.ask(this.url('query'), { entries: entries.join(',') }));
    }

    /** A tablet found by its name. */
    find() {
        this.template('find');
        const rows = this.element.querySelector('ul');
        const list = (typed) => {
            const words = typed.toLowerCase();
            const late = (title) => Number(!title.toLowerCase().startsWith(words));
            const all = (key, title) => `${title} ${this.board.elements.get(key)?.textContent ?? ''}`.toLowerCase();
            const found = Object.entries(this.board.titles).filter(([key, title]) => all(key, title).includes(words))
                .sort(([, a], [, b]) => late(a) - late(b) || a.localeCompare(b));
            rows.replaceChildren(...found.slice(0, 20).map(([key, title]) => {
                const item = document.createElement('li');
                item.innerHTML = '<button type="button" class="link"></button>';
                item.firstChild.dataset.go = key;
                item.firstChild.textContent = title;
                return item;
            }));
        };
        this.element.querySelector('input').addEventListener('input', (event) => list(event.target.value.trim()));
        list('');
    }

    add() {
        this.template('add');
        const rows = this.element.querySelector('[data-found]');
        const ask = later(110, async (words) => { rows.innerHTML = await this.board.ask(this.url('add'), { q: words, inside: this.board.inside() }); });
        this.element.querySelector('input').addEventListener('input', (event) => ask(event.target.value.trim()));
        ask('');
    }

    key(event) {
        event.stopPropagation();
        const rows = [...this.element.querySelectorAll('[data-go], [data-add], [data-align], [data-arrange]')];
        const at = rows.indexOf(document.activeElement);
        if (event.key === 'Escape') {
            this.close();
        } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            rows[Math.min(rows.length - 1, Math.max(0, at + (event.key === 'ArrowDown' ? 1 : -1)))]?.focus();
        } else if (event.key === 'Enter' && event.target.matches('input[type=search]')) {
            event.preventDefault();
            rows[0]?.click();
        }
    }

    click(event) {
        const { board } = this;
        const button = event.target.closest('button');
        if (!button) {
            return;
        }
        if (button.dataset.go) {
            this.close();
            board.choose([button.dataset.go]);
            board.camera.bring(board.rect(button.dataset.go));
        } else if (button.dataset.add) {
            board.addEntries([button.dataset.add]).then(() => {
                button.closest('li')?.classList.add('there');
                button.disabled = true;
            });
        } else if (button.dataset.addAll) {
            board.addEntries(button.dataset.addAll.split(','));
            this.close();
        } else if (button.dataset.align) {
            board.align(button.dataset.align);
        } else if (button.dataset.arrange) {
            this.close();
            if (button.dataset.arrange === 'frames') {
                board.frames();
            } else {
                board.arrange(button.dataset.arrange);
            }
        } else if ('copy' in button.dataset) {
            navigator.clipboard?.writeText(this.element.querySelector('pre').textContent);
            board.told('Copied', 'good');
        } else if ('close' in button.dataset) {
            this.close();
        }
    }

    /** How much tablets show. */
    changed(event) {
        if (!event.target.matches('[name=shows], [name=field]')) {
            return;
        }
        const level = event.target.name === 'field' ? 'picked' : event.target.value;
        this.element.querySelectorAll('[name=shows]').forEach((each) => { each.checked = each.value === level; });
        const fields = [...this.element.querySelectorAll('[name=field]:checked')].map((each) => each.value);
        const changes = {};
        for (const key of this.board.tablets()) {
            const piece = { ...this.board.pieces[key] };
            delete piece.shows;
            delete piece.fields;
            delete piece.folded;
            if (level === 'picked') {
                piece.fields = fields;
            } else if (level !== '') {
                piece.shows = level;
            }
            changes[key] = piece;
        }
        this.board.apply(changes);
    }
}
