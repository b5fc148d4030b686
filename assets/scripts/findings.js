// Findings, in margins and in their list: setting aside asks why and until when, in place.
import { inText } from './ask.js';
import { walk } from './keys.js';
import { send } from './drafts.js';

const tell = (from, words, tone) => from.dispatchEvent(new CustomEvent('told', { bubbles: true, detail: { words, tone } }));

async function aside(button, reason) {
    const { check, group, source } = button.dataset;
    const body = { ...reason, ...(check === undefined ? {} : { check, group, source: Number(source) }) };
    const answer = await send(button.dataset.aside, body);
    if (!answer.ok) {
        tell(button, answer.error ?? 'It could not be set aside. Load the page anew, and try again.', 'bad');
    } else if ('reload' in button.dataset) {
        location.reload();
    } else {
        const note = button.closest('.note');
        tell(note, 'Set aside', 'good');
        note.remove();
    }
    return answer.ok;
}

function ask(button) {
    if (button.nextElementSibling?.matches('.aside-form')) {
        return;
    }
    const form = document.createElement('form');
    form.className = 'aside-form';
    form.innerHTML = '<input class="form-control" name="why" maxlength="255" required placeholder="why it is as it should be"'
        + ' aria-label="Why it is as it should be">'
        + '<label>until <input class="form-control" name="until" type="date" aria-label="Until when; empty for good"></label>'
        + '<button class="btn btn-plain small">Set aside</button> <button type="button" class="link">no</button>';
    form.addEventListener('submit', async (event) => {
        event.preventDefault();
        await aside(button, { why: form.why.value, until: form.until.value });
    });
    const leave = () => { form.remove(); button.hidden = false; };
    form.querySelector('button.link').addEventListener('click', leave);
    form.addEventListener('keydown', (event) => {
        event.stopPropagation();
        if (event.key === 'Escape') {
            leave();
        }
    });
    button.after(form);
    button.hidden = true;
    form.why.focus();
}

document.addEventListener('click', async (event) => {
    const button = event.target.closest('[data-aside]');
    if (button) {
        if ('asks' in button.dataset) {
            ask(button);
        } else {
            aside(button, {});
        }
    }
    const mend = event.target.closest('[data-mend]');
    if (mend) {
        mend.disabled = true;
        const answer = await send(mend.dataset.mend, {});
        if (answer.ok) {
            const row = mend.closest('tr');
            row.classList.add('faded');
            mend.replaceWith('mended');
            tell(row, 'Mended', 'good');
        } else {
            mend.disabled = false;
            tell(mend, answer.error ?? 'Somebody has written here meanwhile. Open it to see what.', 'bad');
        }
    }
});

export const findings = () => ({
    status: '',
    tone: '',
    told(event) { [this.status, this.tone] = [event.detail.words, event.detail.tone]; },
    key(event) {
        if (inText(event.target) || event.ctrlKey || event.metaKey || event.altKey) {
            return;
        }
        const row = this.$root.querySelector('.at');
        if (event.key === 'j' || event.key === 'k') {
            walk(event, this.$root);
        } else if (event.key === 'Enter' && row && document.activeElement === row) {
            location.href = row.querySelector('a').href;
        } else if (event.key === 'm') {
            row?.querySelector('[data-mend]')?.click();
        } else if (event.key === 'x' && row) {
            event.preventDefault();
            row.querySelector('[data-aside]')?.click();
        }
    },
});
