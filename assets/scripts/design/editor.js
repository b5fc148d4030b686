// The outline in its editor. It lives in a shadow root, where styles made by scripts are allowed by the page's policy.
import { acceptCompletion, autocompletion, completionKeymap, startCompletion } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentLess, insertTab } from '@codemirror/commands';
import { EditorState } from '@codemirror/state';
import { EditorView, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view';
import { highlighting, theme } from './highlight.js';
import { faultField, margin, noteField, setFaults, setNotes } from './marks.js';

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

export function editor(place, text, { mayChange, counts, changed, complete, script, left }) {
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
                margin(),
                history(),
                highlightActiveLine(),
                highlighting(counts),
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
