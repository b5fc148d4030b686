import { html, later } from './ask.js';
import { plainKey, walk } from './keys.js';

export const register = () => ({
    init() {
        this.load = later(110, async () => {
            const query = new URLSearchParams([...new FormData(this.$root)].filter(([, value]) => value !== '' && value !== '0'));
            const address = `${location.pathname}?${query}`;
            this.asked = address;
            const rows = await html(address);
            if (this.asked === address) {
                document.getElementById('rows').innerHTML = rows;
                history.replaceState(null, '', address);
                document.querySelectorAll('[data-narrowed]').forEach((link) => { link.search = `?register=1&${query}`; });
            }
        });
    },
    changed(event) {
        if (event.type !== 'submit' && event.target.name === 'source') {
            this.$root.elements.schema.value = '';
        }
        this.load();
    },
});

export const rows = () => ({
    async more(event) {
        const button = event.target.closest('[data-more]');
        if (!button) {
            return;
        }
        button.disabled = true;
        const query = new URLSearchParams(location.search);
        query.set('after', button.dataset.more);
        const page = document.createElement('div');
        page.innerHTML = await html(`${location.pathname}?${query}`);
        this.$root.querySelector('tbody').append(...page.querySelectorAll('tbody > tr'));
        const next = page.querySelector('[data-more]');
        button.closest('p').replaceWith(next ? next.closest('p') : '');
    },
    key(event) {
        if (!plainKey(event)) {
            return;
        }
        if (event.key === 'j' || event.key === 'k') {
            walk(event, this.$root);
        } else if (event.key === 'Enter') {
            const link = this.$root.querySelector('.at a');
            if (link && document.activeElement?.tagName !== 'A') {
                location.href = link.href;
            }
        }
    },
});
