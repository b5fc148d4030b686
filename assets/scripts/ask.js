// Requests to our own server that a script makes.
export const HEADERS = { 'X-Requested-With': 'fetch' };

export async function html(url) {
    const response = await fetch(url, { headers: HEADERS });
    if (response.status === 401) {
        location.reload();
    }
    return response.text();
}

export function token() {
    return document.querySelector('meta[name="texts-token"]')?.content ?? '';
}

export function later(wait, run) {
    let timer;
    return (...given) => { clearTimeout(timer); timer = setTimeout(() => run(...given), wait); };
}

export const inText = (target) => target instanceof Element && Boolean(target.closest('input, textarea, select, [contenteditable]'));
