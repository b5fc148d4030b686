// The outline in its editor. It lives in a shadow root, where styles made by scripts are allowed by the page's policy.
import { acceptCompletion, autocompletion, completionKeymap, startCompletion } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentLess, insertTab } from '@codemirror/commands';
import { EditorState, RangeSetBuilder, StateEffect, StateField } from '@codemirror/state';
import { Decoration, EditorView, GutterMarker, gutter, highlightActiveLine, keymap, lineNumbers, ViewPlugin, WidgetType } from '@codemirror/view';

const COUNT = /\b(?:exactly one|at most one|one or more|any number of|exactly \d+|at most \d+|\d[\d,]* or more|\d[\d,]* to \d[\d,]*)\b/gi;
const setFaults = StateEffect.define();
const setNotes = StateEffect.define();

const theme = EditorView.theme({
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
function words(view) {
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
            if (/^(?:An?|Each|Every) /.test(text) && (text.match(COUNT) ?? []).length > 0) {
                let half = 0;
                for (const piece of text.split(';')) {
                    const count = new RegExp(COUNT.source, 'i').exec(piece);
                    const subject = /^\s*(?:an?|each|every) ("[^"]*"|\S+)/i.exec(piece);
                    if (count && subject && count.index > subject[0].length) {
                        parts.push([line.from + half + subject[0].length + 1, line.from + half + count.index - 1, 'o-verb']);
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

const highlighting = ViewPlugin.fromClass(class {
    constructor(view) { this.decorations = words(view); }
    update(update) {
        if (update.docChanged || update.viewportChanged) {
            this.decorations = words(update.view);
        }
    }
}, { decorations: (plugin) => plugin.decorations });

class Said extends WidgetType {
    constructor(fault) {
        super();
        this.fault = fault;
    }
    eq(other) { return JSON.stringify(other.fault) === JSON.stringify(this.fault); }
    toDOM(view) {
        const box = document.createElement('div');
        box.className = 'o-said';
        box.setAttribute('role', 'note');
        // Each offer is underlined where the sentence names it; one that it does not name follows it.
        let rest = this.fault.message;
        for (const offer of this.fault.offers) {
            const at = rest.indexOf(offer);
            box.append(at < 0 ? `${rest} ` : rest.slice(0, at));
            rest = at < 0 ? '' : rest.slice(at + offer.length);
            const button = document.createElement('button');
            button.type = 'button';
            button.textContent = offer;
            button.addEventListener('mousedown', (event) => event.preventDefault());
            button.addEventListener('click', () => mend(view, this.fault, offer));
            box.append(button);
        }
        box.append(rest);
        return box;
    }
    ignoreEvent() { return true; }
}

function mend(view, fault, offer) {
    const line = view.state.doc.line(Math.min(fault.line, view.state.doc.lines));
    const from = Math.min(line.from + fault.column, line.to);
    const to = Math.min(from + fault.length, line.to);
    view.dispatch({ changes: { from, to, insert: offer }, selection: { anchor: from + offer.length } });
    view.focus();
}

function faultsOf(doc, faults) {
    const marks = [];
    for (const fault of faults) {
        if (fault.line > doc.lines) {
            continue;
        }
        const line = doc.line(fault.line);
        const from = Math.min(line.from + fault.column, line.to);
        const to = Math.min(Math.max(from + fault.length, from + 1), line.to);
        if (to > from) {
            marks.push(Decoration.mark({ class: 'o-fault' }).range(from, to));
        }
        marks.push(Decoration.widget({ widget: new Said(fault), block: true, side: 1 }).range(line.to));
    }
    return Decoration.set(marks, true);
}

const faultField = StateField.define({
    create: () => Decoration.none,
    update(value, transaction) {
        for (const effect of transaction.effects) {
            if (effect.is(setFaults)) {
                return faultsOf(transaction.state.doc, effect.value);
            }
        }
        return value.map(transaction.changes);
    },
    provide: (field) => EditorView.decorations.from(field),
});

class Mark extends GutterMarker {
    constructor(notes) {
        super();
        this.notes = notes;
    }
    eq(other) { return JSON.stringify(other.notes) === JSON.stringify(this.notes); }
    toDOM() {
        const mark = document.createElement('span');
        mark.className = this.notes.some((note) => note.serious) ? 'o-mark serious' : 'o-mark';
        mark.title = this.notes.map((note) => note.words).join('\n');
        return mark;
    }
}

const noteField = StateField.define({
    create: () => new Map(),
    update(value, transaction) {
        for (const effect of transaction.effects) {
            if (effect.is(setNotes)) {
                const byLine = new Map();
                for (const note of effect.value) {
                    byLine.set(note.line, [...byLine.get(note.line) ?? [], note]);
                }
                return byLine;
            }
        }
        return value;
    },
});

/** Only what differs is replaced, so that the cursor stays and what others see does not jump. */
export function difference(before, after) {
    let from = 0;
    while (from < before.length && from < after.length && before[from] === after[from]) {
        from += 1;
    }
    let [was, is] = [before.length, after.length];
    while (was > from && is > from && before[was - 1] === after[is - 1]) {
        was -= 1;
        is -= 1;
    }
    return { from, to: was, insert: after.slice(from, is) };
}

export function editor(place, text, { mayChange, changed, complete, script, left }) {
    const shadow = place.attachShadow({ mode: 'open' });
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(':host { display: block; height: 100%; }');
    shadow.adoptedStyleSheets = [sheet];
    const source = async (context) => {
        const line = context.state.doc.lineAt(context.pos);
        if (!context.explicit && context.pos === line.from) {
            return null;
        }
        const found = await complete(context.state.doc.toString(), line.number, context.pos - line.from);
        if (!found || found.options.length === 0 || (!context.explicit && context.pos - line.from === found.from)) {
            return null;
        }
        return { from: line.from + found.from, options: found.options, filter: false };
    };
    const view = new EditorView({
        root: shadow,
        parent: shadow,
        state: EditorState.create({
            doc: text,
            extensions: [
                lineNumbers(),
                gutter({
                    class: 'o-marks',
                    lineMarker(of, block) {
                        const notes = of.state.field(noteField).get(of.state.doc.lineAt(block.from).number);
                        return notes ? new Mark(notes) : null;
                    },
                    lineMarkerChange: (update) => update.transactions.some((one) => one.effects.some((effect) => effect.is(setNotes))) || update.docChanged,
                }),
                history(),
                highlightActiveLine(),
                highlighting,
                faultField,
                noteField,
                EditorView.lineWrapping,
                EditorState.tabSize.of(2),
                EditorState.readOnly.of(!mayChange),
                EditorView.editable.of(mayChange),
                EditorView.contentAttributes.of({ 'aria-label': 'Outline', spellcheck: 'false', tabindex: '0' }),
                autocompletion({ override: [source], icons: false, activateOnTypingDelay: 120 }),
                keymap.of([
                    { key: 'Tab', run: (of) => acceptCompletion(of) || indented(of) || startCompletion(of) || insertTab(of), shift: indentLess },
                    { key: 'Mod-Enter', run: () => { script(); return true; } },
                    { key: 'Escape', run: () => { left(); return true; } },
                    ...completionKeymap, ...historyKeymap, ...defaultKeymap,
                ]),
                EditorView.updateListener.of((update) => update.docChanged && changed(update.state.doc.toString())),
                theme,
            ],
        }),
    });
    return {
        view,
        text: () => view.state.doc.toString(),
        set(after) {
            const before = view.state.doc.toString();
            if (before !== after) {
                view.dispatch({ changes: difference(before, after), userEvent: 'input' });
            }
        },
        faults: (faults) => view.dispatch({ effects: setFaults.of(faults) }),
        notes: (notes) => view.dispatch({ effects: setNotes.of(notes) }),
        go(number) {
            const line = view.state.doc.line(Math.max(1, Math.min(number, view.state.doc.lines)));
            view.dispatch({ selection: { anchor: line.to }, effects: EditorView.scrollIntoView(line.from, { y: 'center' }) });
            view.focus();
        },
        focus: () => view.focus(),
    };
}

/** At the beginning of an empty line, Tab goes into the block. */
function indented(view) {
    const { from, to } = view.state.selection.main;
    const line = view.state.doc.lineAt(from);
    if (from !== to || line.text.trim() !== '') {
        return false;
    }
    view.dispatch({ changes: { from: line.from, to: line.to, insert: '  ' }, selection: { anchor: line.from + 2 } });
    return true;
}
