// How an outline is set: names at the margin, verbs of sentences, what is quoted.
import { RangeSetBuilder } from '@codemirror/state';
import { Decoration, EditorView, ViewPlugin } from '@codemirror/view';

export const theme = EditorView.theme({
    '&': { height: '100%', color: 'var(--ink)', backgroundColor: 'var(--slab)', fontSize: '13.5px' },
    '&.cm-focused': { outline: 'none' },
    '.cm-scroller': { fontFamily: 'var(--code)', lineHeight: '1.62' },
    '.cm-content': { caretColor: 'var(--rubric)', padding: '10px 0 40px' },
    '.cm-line': { padding: '0 18px 0 6px' },
    '.cm-gutters': { backgroundColor: 'var(--slab)', color: 'var(--faded)', border: '0', fontSize: '11px' },
    '.cm-gutterElement': { lineHeight: '22px' },
    '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--wash)' },
    '.cm-cursor': { borderLeftColor: 'var(--rubric)', borderLeftWidth: '2px' },
    '&.cm-focused .cm-selectionBackground, .cm-selectionBackground, ::selection': {
        backgroundColor: 'color-mix(in srgb, var(--rubric) 18%, transparent) !important',
    },
    '.o-head': { fontWeight: '650' },
    '.o-verb': { color: 'var(--rubric)', fontStyle: 'italic', fontFamily: 'var(--text)', fontWeight: '500', fontSize: '13px' },
    '.o-comment, .o-quoted': { color: 'var(--faded)' },
    '.o-fault': { textDecoration: 'underline wavy var(--rubric) 1px', textUnderlineOffset: '4px' },
    '.o-said': {
        display: 'block', margin: '2px 18px 4px 6px', padding: '1px 0 1px 10px', borderLeft: '3px solid var(--rubric)', color: 'var(--rubric)',
        font: '400 12.5px/1.45 var(--text)',
    },
    '.o-said button': {
        font: 'inherit', color: 'inherit', background: 'none', border: '0', padding: '0', textDecoration: 'underline', cursor: 'pointer', minHeight: '24px',
    },
    '.o-mark': { display: 'inline-block', width: '4px', height: '16px', marginTop: '3px', backgroundColor: 'var(--ochre)' },
    '.o-mark.serious': { backgroundColor: 'var(--rubric)' },
    '.o-marks': { width: '8px' },
    '.cm-tooltip': { backgroundColor: 'var(--slab)', border: '1px solid var(--rule-strong)', color: 'var(--ink)' },
    '.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--code)', maxHeight: '16em' },
    '.cm-tooltip-autocomplete > ul > li': { padding: '2px 10px' },
    '.cm-tooltip-autocomplete > ul > li[aria-selected]': { backgroundColor: 'var(--ink)', color: 'var(--slab)' },
    '.cm-completionDetail': { fontFamily: 'var(--text)', fontStyle: 'normal', color: 'var(--faded)', fontSize: '12px' },
    '.cm-tooltip-autocomplete > ul > li[aria-selected] .cm-completionDetail': { color: 'var(--slab)' },
});

/** Names at the margin stand out, verbs of sentences are set as on the drawing, what is quoted steps back. */
function words(view, count) {
    const builder = new RangeSetBuilder();
    const mark = (name) => Decoration.mark({ class: name });
    for (const { from, to } of view.visibleRanges) {
        for (let at = from; at <= to;) {
            const line = view.state.doc.lineAt(at);
            at = line.to + 1;
            const text = line.text;
            if (/^\s*--/.test(text)) {
                builder.add(line.from, line.to, mark('o-comment'));
                continue;
            }
            const parts = [];
            if (/^(?:An?|Each|Every) /.test(text) && count.test(text)) {
                let half = 0;
                for (const piece of text.split(';')) {
                    const number = count.exec(piece);
                    const subject = /^\s*(?:an?|each|every) ("[^"]*"|\S+)/i.exec(piece);
                    if (number && subject && number.index > subject[0].length) {
                        parts.push([line.from + half + subject[0].length + 1, line.from + half + number.index - 1, 'o-verb']);
                    }
                    half += piece.length + 1;
                }
            } else if (/^\S/.test(text)) {
                const comma = text.indexOf(',');
                parts.push([line.from, line.from + (comma > 0 ? comma : text.length), 'o-head']);
            }
            for (const [start, end, name] of parts.sort((a, b) => a[0] - b[0])) {
                if (end > start) {
                    builder.add(start, end, mark(name));
                }
            }
        }
    }
    return builder.finish();
}

/** @param {string} counts the words for how many, as a regular expression */
export const highlighting = (counts) => ViewPlugin.fromClass(class {
    constructor(view) {
        this.count = new RegExp(`\\b(?:${counts})\\b`, 'i');
        this.decorations = words(view, this.count);
    }
    update(update) {
        if (update.docChanged || update.viewportChanged) {
            this.decorations = words(update.view, this.count);
        }
    }
}, { decorations: (plugin) => plugin.decorations });
