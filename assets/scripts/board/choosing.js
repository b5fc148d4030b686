// Which pieces are chosen, and what that shows.
import { places, within } from './words.js';

export const choosing = {
    keyAt(target) {
        const element = target.closest?.('.tablet, .note');
        if (!element || !this.svg.contains(element)) {
            return null;
        }
        return element.dataset.entry ? `t${element.dataset.entry}` : element.dataset.note;
    },

    choose(keys, add = false) {
        this.chosen = new Set(add ? [...this.chosen, ...keys] : keys);
        this.chose();
    },

    chose() {
        this.mark();
        const tablets = this.tablets();
        this.root.querySelectorAll('[data-for]').forEach((each) => {
            const wants = each.dataset.for;
            each.hidden = !({ none: this.chosen.size === 0, some: this.chosen.size > 0, tablets: tablets.length > 0, two: tablets.length > 1,
                more: this.chosen.size > 1, note: this.chosen.size === 1 && this.isNote() })[wants];
        });
        if (this.chosen.size === 1) {
            const [key] = this.chosen;
            const count = (this.linesOf.get(key) ?? []).length;
            this.say(key.startsWith('t') ? `${this.name(key)}, ${places(count, 'join')} in the picture` : `${this.pieces[key]?.kind} ${this.name(key)}`);
            this.camera.bring(this.rect(key));
        } else if (this.chosen.size > 1) {
            this.say(`${this.chosen.size} chosen`);
        }
    },

    mark() {
        this.elements.forEach((element, key) => element.classList.toggle('chosen', this.chosen.has(key)));
    },

    say(words) {
        this.root.querySelector('[data-aloud]').textContent = words;
    },

    tablets() {
        return [...this.chosen].filter((key) => key.startsWith('t'));
    },

    isNote() {
        return [...this.chosen].every((key) => key.startsWith('n'));
    },

    rect(key) {
        const [x, y, width, height] = this.scene.pieces[key];
        const size = this.sizes[key] ?? [width, height];
        return { x, y, width: size[0], height: size[1] };
    },

    /** Whether what lies in a piece goes where it goes. */
    holds(key) {
        return Boolean(this.kinds[this.pieces[key]?.kind]?.holds);
    },

    /** What lies within a frame goes where the frame goes. */
    heldBy(key) {
        if (!this.holds(key)) {
            return [];
        }
        const frame = this.rect(key);
        return Object.keys(this.scene.pieces).filter((other) => {
            const box = this.rect(other);
            return other !== key && within(box, frame);
        });
    },

    click(event) {
        const leads = event.target.closest('.leads');
        const line = event.target.closest('.line[data-join]');
        if (leads) {
            event.preventDefault();
            this.choose([`t${leads.dataset.leads}`]);
            this.panel.leads(leads.dataset.leads);
        } else if (line) {
            this.panel.join(line.dataset.join);
        } else if (this.writes && this.keyAt(event.target)) {
            event.preventDefault();
        } else if (!event.target.closest('a, button, textarea') && !event.shiftKey) {
            this.choose([]);
        }
        this.frame.focus({ preventScroll: true });
    },

    opened(event) {
        const key = this.keyAt(event.target);
        if (key?.startsWith('n') && this.writes) {
            this.write(key);
        } else if (key && this.writes) {
            location.href = this.elements.get(key).querySelector('a')?.href ?? location.href;
        }
    },
};
