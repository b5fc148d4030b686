// How one finds one’s way on a map: by pointer, by name and by key.
import { inText } from '../ask.js';

export const finding = {
    click(event) {
        const region = event.target.closest('.region');
        if (region && !event.target.closest('a')) {
            if (this.level === 'regions') {
                this.into(Number(region.dataset.index));
            } else {
                this.mark(Number(region.dataset.index));
            }
        }
    },

    /** What the search of the register finds is shown here, if it is here. */
    hit(event) {
        const id = event.target.closest('[data-hit]')?.getAttribute('href')?.match(/\/register\/(\d+)/)?.[1];
        if (id && this.state.tablets[id]) {
            event.preventDefault();
            event.stopPropagation();
            document.querySelector('.found').style.display = 'none';
            this.go(id);
            this.frame.focus({ preventScroll: true });
        }
    },

    find() {
        this.margin.innerHTML = this.root.querySelector('template[data-panel=find]').innerHTML;
        this.margin.hidden = false;
        const input = this.margin.querySelector('input');
        const rows = this.margin.querySelector('ul');
        const list = () => {
            const words = input.value.trim().toLowerCase();
            const late = (tablet) => Number(!tablet[5].toLowerCase().startsWith(words));
            const found = words === '' ? [] : Object.entries(this.state.tablets).filter(([, tablet]) => tablet[5].toLowerCase().includes(words))
                .sort(([, a], [, b]) => late(a) - late(b) || a[5].length - b[5].length);
            rows.replaceChildren(...found.slice(0, 30).map(([id, tablet]) => {
                const item = document.createElement('li');
                const button = document.createElement('button');
                Object.assign(button, { type: 'button', className: 'link', textContent: tablet[5] });
                button.addEventListener('click', () => { this.shut(); this.go(id); });
                const where = Object.assign(document.createElement('span'), { className: 'under', textContent: this.state.regions[tablet[0]].name });
                item.append(button, where);
                return item;
            }));
        };
        input.addEventListener('input', list);
        input.addEventListener('keydown', (event) => {
            if (event.key === 'Enter') {
                rows.querySelector('button')?.click();
            } else if (event.key === 'Escape') {
                this.shut();
            }
        });
        input.focus();
    },

    shut() {
        this.margin.hidden = true;
        this.frame.focus({ preventScroll: true });
    },

    deed(name) {
        ({
            find: () => this.find(),
            fit: () => this.camera.fit(),
            into: () => this.into(),
            make: () => {
                if (this.at < 0) {
                    this.say('Choose a region first.');
                } else {
                    location.href = `${this.root.dataset.new}?entries=${this.members[this.at].slice(0, 300).join(',')}`;
                }
            },
        })[name]?.();
    },

    key(event) {
        if (inText(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('dialog[open]')) {
            return;
        }
        const count = this.state.regions.length;
        if (event.key === 'j' || event.key === 'k') {
            const first = event.key === 'j' ? 0 : count - 1;
            const next = this.at < 0 ? first : (this.at + (event.key === 'j' ? 1 : -1) + count) % count;
            this.mark(next);
            const [x, y, width, height] = this.state.regions[next].box;
            if (this.level === 'regions') {
                this.camera.bring({ x, y, width, height });
            } else {
                this.into(next);
            }
        } else if (event.key === 'Enter' && !event.target.closest?.('a, button')) {
            this.into();
        } else if (event.key === 'Escape') {
            if (this.margin.hidden) {
                this.camera.fit();
            } else {
                this.shut();
            }
        } else {
            const deed = this.root.querySelector(`[data-do][data-key="${CSS.escape(event.key)}"]`);
            if (deed) {
                event.preventDefault();
                this.deed(deed.dataset.do);
            } else {
                this.camera.key(event);
            }
        }
    },
};
