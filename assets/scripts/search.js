import { html, inText, later } from './ask.js';

/** Search from anywhere: results come grouped from the server and are walked with the arrow keys. */
export const find = () => ({
    open: false,
    asked: '',
    init() {
        this.ask = later(90, async (query) => {
            const found = await html(`${this.$refs.input.dataset.url}?q=${encodeURIComponent(query)}`);
            if (query === this.asked) {
                this.$refs.list.innerHTML = found;
                this.$refs.list.querySelector('[data-hit]')?.setAttribute('aria-selected', 'true');
                this.shown(true);
            }
        });
        // What was looked for in vain is counted, once a person has stopped typing.
        this.vain = later(2500, (query) => {
            if (query === this.asked && query.length > 2 && this.open && !this.$refs.list.querySelector('[data-hit]')) {
                html(`${this.$refs.input.dataset.url}?q=${encodeURIComponent(query)}&in-the-end=1`);
            }
        });
        window.addEventListener('keydown', (event) => {
            if (event.key === '/' && !inText(event.target) && !event.ctrlKey && !event.metaKey) {
                event.preventDefault();
                this.$refs.input.select();
                this.$refs.input.focus();
            } else if (event.key === '?' && !inText(event.target)) {
                document.getElementById('keys')?.showModal();
            }
        });
        document.addEventListener('click', (event) => {
            if (event.target.closest('[data-keys]')) {
                document.getElementById('keys')?.showModal();
            }
        });
    },
    shown(open) {
        this.open = open;
        this.$refs.input.setAttribute('aria-expanded', String(open));
    },
    typed() {
        this.asked = this.$refs.input.value.trim();
        if (this.asked === '') {
            this.shown(false);
        } else {
            this.ask(this.asked);
            this.vain(this.asked);
        }
    },
    moved(event) {
        const hits = [...this.$refs.list.querySelectorAll('[data-hit]')];
        const at = hits.findIndex((hit) => hit.getAttribute('aria-selected') === 'true');
        if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            const next = hits[(at + (event.key === 'ArrowDown' ? 1 : -1) + hits.length) % hits.length];
            hits[at]?.removeAttribute('aria-selected');
            next?.setAttribute('aria-selected', 'true');
            next?.scrollIntoView({ block: 'nearest' });
        } else if (event.key === 'Enter' && this.open && hits.length > 0) {
            event.preventDefault();
            hits[Math.max(0, at)].click();
        }
    },
    leave() {
        this.shown(false);
    },
});
