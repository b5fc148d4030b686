import { HEADERS, token } from './ask.js';
import { send } from './drafts.js';

export const changes = () => ({
    async back(event) {
        const button = event.target.closest('[data-change]');
        if (button) {
            button.disabled = true;
            const address = this.$root.dataset.back.replace('/0/', `/${button.dataset.change}/`);
            await fetch(address, { method: 'POST', headers: { ...HEADERS, 'X-Csrf-Token': token() } });
            location.reload();
        }
    },
});

/** Drafts that were taken in one go. */
export const takings = () => ({
    async back(event) {
        const button = event.target.closest('[data-back]');
        if (button) {
            button.disabled = true;
            const answer = await send(button.dataset.back, {});
            if (answer.ok) {
                location.reload();
            } else {
                button.replaceWith(answer.error ?? 'It could not be taken back.');
            }
        }
    },
});
