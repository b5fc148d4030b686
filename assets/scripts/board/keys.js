// What each key does on a board.
import { inText } from '../ask.js';
import { clone, places } from './words.js';

export const keys = {
    async undo(back = true) {
        await this.edits.busy;
        const turned = this.edits.turn(this.pieces, back);
        if (!turned) {
            this.told(back ? 'There is nothing to take back.' : 'There is nothing to make again.', '');
            return;
        }
        if (Object.keys(turned.changes).length > 0) {
            for (const [key, value] of Object.entries(turned.changes)) {
                if (value === null) { delete this.pieces[key]; } else { this.pieces[key] = clone(value); }
            }
            await this.edits.send(turned.changes, { draw: true });
        }
        if (turned.others > 0) {
            this.told(`${places(turned.others, 'piece')} that somebody else has changed since stayed.`, '');
        }
    },

    key(event) {
        const control = event.ctrlKey || event.metaKey;
        if (inText(event.target) || document.querySelector('dialog[open]')) {
            return;
        }
        if (control && event.key.toLowerCase() === 'z' && this.writes) {
            event.preventDefault();
            this.undo(!event.shiftKey);
        } else if (control && event.key.toLowerCase() === 'y' && this.writes) {
            event.preventDefault();
            this.undo(false);
        } else if (control && event.key.toLowerCase() === 'a') {
            event.preventDefault();
            this.choose(Object.keys(this.scene.pieces));
        } else if (!control) {
            this.plainKey(event);
        }
    },

    plainKey(event) {
        const arrows = { ArrowLeft: [-10, 0], ArrowRight: [10, 0], ArrowUp: [0, -10], ArrowDown: [0, 10] };
        if (arrows[event.key] && this.chosen.size > 0 && this.writes) {
            event.preventDefault();
            this.nudge(arrows[event.key], event);
        } else if (event.key === 'j' || event.key === 'k') {
            event.preventDefault();
            this.next(event.key === 'j' ? 1 : -1);
        } else if (event.key === 'Escape') {
            if (!this.panel.close()) {
                this.choose([]);
            }
        } else if (event.key === 'Enter' && this.line) {
            this.panel.join(this.line);
        } else if (event.key === 'Enter' && this.chosen.size === 1 && !event.target.closest?.('a, button')) {
            this.open([...this.chosen][0]);
        } else if (!event.altKey && !this.deedOf(event) && (!arrows[event.key] || this.chosen.size === 0)) {
            this.camera.key(event);
        }
    },

    open(key) {
        if (key.startsWith('n')) {
            this.write(key);
        } else {
            this.panel.tablet(key);
        }
    },

    /** Does what a key stands for, where a button says so. */
    deedOf(event) {
        const deed = this.root.querySelector(`[data-do][data-key="${CSS.escape(event.key)}"]`);
        if (!deed || (deed.hidden && deed.closest('[hidden]') !== null)) {
            return false;
        }
        event.preventDefault();
        this.deed(deed.dataset.do);

        return true;
    },

    /** Goes through the pieces as they stand, from left to right and downwards. */
    next(step) {
        const keys = Object.keys(this.scene.pieces).sort((a, b) => {
            const [p, q] = [this.rect(a), this.rect(b)];
            return Math.round(p.y / 120) - Math.round(q.y / 120) || p.x - q.x;
        });
        const at = keys.indexOf([...this.chosen].pop());
        this.line = null;
        if (keys.length > 0) {
            this.choose([keys[(at + step + keys.length) % keys.length]]);
        }
    },

    /** Goes through the lines of the chosen tablet, or of the picture. */
    nextLine() {
        const [key] = this.tablets();
        const lines = key ? this.linesOf.get(key) ?? [] : this.scene.lines;
        if (lines.length === 0) {
            this.told('No join of it is in the picture.', '');
            return;
        }
        const at = lines.findIndex((line) => line.id === this.line);
        const line = lines[(at + 1) % lines.length];
        this.line = line.id;
        this.point(this.lines.get(line.id));
        this.say(line.tip);
        this.panel.join(line.id);
    },
};
