import { HEADERS } from './ask.js';

/** Long work: asks how far it is, in the words of the server, and loads the page again when it is over. */
export const work = () => ({
    words: '',
    silent: false,
    init() {
        this.words = this.$root.querySelector('[role=status]').textContent.trim();
        const ask = async () => {
            try {
                const state = await (await fetch(this.$root.dataset.url, { headers: HEADERS })).json();
                if (state.over) {
                    return location.reload();
                }
                this.words = state.words;
                this.silent = state.silent;
                if (state.total > 0) {
                    this.$refs.bar.max = state.total;
                    this.$refs.bar.value = state.done;
                }
            } catch {
                this.words = 'No connection to Fasti; asking again';
            }
            return setTimeout(ask, 700);
        };
        ask();
    },
});
