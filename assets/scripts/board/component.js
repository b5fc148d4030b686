// The page of a diagram that is worked on.
import { chosen } from '../choice.js';
import { Board } from './board.js';

export const board = () => ({
    status: '',
    tone: '',
    init() {
        this.board = new Board(this.$root, (words, tone) => { this.status = words; this.tone = tone; });
        this.$root.board = this.board;
        this.$root.addEventListener('click', (event) => {
            const deed = event.target.closest('[data-do]');
            if (deed) {
                this.board.deed(deed.dataset.do);
            }
            const level = event.target.closest('[data-level]');
            if (level) {
                this.board.apply({ detail: { shows: level.dataset.level } });
            }
        });
        this.$root.addEventListener('change', (event) => {
            if (event.target.matches('[data-choice]')) {
                chosen(event.target, this.$root.dataset.texts, this.board.edits.sitting, (words, tone) => { this.status = words; this.tone = tone; });
            }
        });
        this.$root.addEventListener('drawn', () => this.levels());
        this.levels();
    },
    levels() {
        const shows = this.board.pieces.detail?.shows ?? 'keys';
        this.$root.querySelectorAll('[data-level]').forEach((each) => each.setAttribute('aria-pressed', String(each.dataset.level === shows)));
    },
    key(event) {
        this.board.key(event);
    },
});
