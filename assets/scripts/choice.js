// A text that is one of a few: saved as soon as it is chosen, unless somebody else has chosen meanwhile.
import { HEADERS, token } from './ask.js';

export async function chosen(select, url, sitting, told) {
    const { topic, id, property, value: base } = select.dataset;
    const response = await fetch(url, {
        method: 'POST',
        headers: { ...HEADERS, 'Content-Type': 'application/json', 'X-Csrf-Token': token() },
        body: JSON.stringify({ topic, id: Number(id), property, base, value: select.value, sitting }),
    });
    const answer = await response.json();
    if (response.ok) {
        select.dataset.value = select.value;
        told('Saved', 'good');
    } else {
        select.value = select.dataset.value = answer.value ?? select.dataset.value;
        told(response.status === 409 ? `${answer.by ?? 'Somebody'} had changed it meanwhile; it is shown now.` : answer.error, 'bad');
    }
}
