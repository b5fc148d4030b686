// A question is asked, and its answer arrives or is not waited for.
import { HEADERS } from '../ask.js';

export const asking = {
    async ask() {
        const { answer, reconciled } = this.$refs;
        // What is asked is what was chosen last, whose plan may be on its way.
        await this.shown;
        if (!this.$root.dataset.answer || !this.$refs.asked.querySelector('[data-answerable]') || this.asking) {
            return;
        }
        this.asking = [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, '0')).join('');
        const begun = Date.now();
        const cancel = '<button type="button" class="btn btn-plain small" data-cancel-ask>Cancel</button>';
        answer.innerHTML = `<p class="asking" role="status">Asking <b>0 s</b> ${cancel}</p>`;
        reconciled.replaceChildren();
        const waits = answer.querySelector('.asking');
        const clock = setInterval(() => { waits.querySelector('b').textContent = `${Math.round((Date.now() - begun) / 1000)} s`; }, 500);
        const body = this.parameters();
        body.append('_token', this.$root.dataset.token);
        body.append('token', this.asking);
        try {
            const response = await fetch(this.$root.dataset.answer, { method: 'POST', headers: HEADERS, body });
            const said = await response.text();
            // Another question stands there by now: this would be the answer to none.
            if (!waits.isConnected) {
                return;
            }
            answer.innerHTML = said;
            const beside = answer.querySelector('template[data-reconciled]');
            if (beside) {
                reconciled.replaceChildren(beside.content.cloneNode(true));
            }
        } catch {
            if (!waits.isConnected) {
                return;
            }
            answer.innerHTML = '<div class="answer bad" role="alert">The answer did not arrive: the connection to Fasti was lost. Ask again.</div>';
        } finally {
            clearInterval(clock);
            this.asking = null;
        }
    },
    cancel() {
        const body = new URLSearchParams({ _token: this.$root.dataset.token, token: this.asking ?? '' });
        fetch(this.$root.dataset.cancel, { method: 'POST', headers: HEADERS, body });
    },
    async copy() {
        const lines = [...this.$refs.sql.querySelectorAll('.sql-lines pre')].map((line) => line.textContent);
        if (lines.length > 0) {
            await navigator.clipboard?.writeText(lines.join('\n'));
            const button = this.$refs.sql.querySelector('[data-copy]');
            button.textContent = 'copied';
            setTimeout(() => { button.textContent = 'copy'; }, 1500);
        }
    },
};
