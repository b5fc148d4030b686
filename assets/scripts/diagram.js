// A diagram that draws itself: how much it shows and which names are links, so that its address says what is seen.
import { html, inText } from './ask.js';
import { drawing } from './drawing.js';

export const diagram = () => ({
    init() {
        const remembered = localStorage.getItem('fasti:tablet-names');
        const asked = new URLSearchParams(location.search);
        if (remembered === 'identifiers' && !asked.has('names')) {
            asked.set('names', 'identifiers');
            this.swap(`${location.pathname}?${asked}`);
        }
        this.ready();
        this.$root.addEventListener('click', (event) => {
            const swap = event.target.closest('[data-swap]');
            const zoom = event.target.closest('[data-zoom]');
            const tablet = event.target.closest('.tablet');
            const leads = event.target.closest('.leads');
            if (swap && !event.ctrlKey && !event.metaKey) {
                event.preventDefault();
                localStorage.setItem('fasti:tablet-names', swap.href.includes('names=identifiers') ? 'identifiers' : 'business');
                this.swap(swap.href);
            } else if (zoom) {
                ({ in: () => this.view.zoom(1.25), out: () => this.view.zoom(0.8), fit: () => this.view.fit() })[zoom.dataset.zoom]();
            } else if (leads) {
                event.preventDefault();
                this.with('beyond', leads.dataset.leads);
            } else if (tablet && event.shiftKey) {
                event.preventDefault();
                this.with('fold', tablet.dataset.entry);
            }
        });
    },
    /** The same picture with an entry folded or unfolded, or with what lies beyond one. */
    with(name, entry) {
        const frame = this.$root.querySelector('[data-drawing]');
        const some = new Set(frame.dataset[name].split(',').filter(Boolean));
        if (some.has(entry)) {
            some.delete(entry);
        } else {
            some.add(entry);
        }
        const address = new URL(frame.dataset.address, location.href);
        if (name !== 'fold' && frame.dataset.fold !== '') {
            address.searchParams.set('fold', frame.dataset.fold);
        }
        address.searchParams.set(name, [...some].join(','));
        this.swap(address.href);
    },
    ready() {
        const frame = this.$root.querySelector('[data-drawing]');
        this.view = frame ? drawing(frame) : null;
    },
    key(event) {
        if (inText(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('dialog[open]')) {
            return;
        }
        if (event.key === 'k') {
            this.$root.querySelector('[data-keep]')?.click();
        } else if (event.key === 'o') {
            this.$root.querySelector('[data-key=o]')?.click();
        }
    },
    async swap(address) {
        this.$root.innerHTML = await html(address);
        history.replaceState(null, '', address);
        this.ready();
    },
});
