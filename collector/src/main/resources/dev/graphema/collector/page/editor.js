// The editor of the question: one line, with highlighting, completion, and errors at their column.

import {acceptCompletion, autocompletion, closeCompletion, completionKeymap, completionStatus, moveCompletionSelection, selectedCompletion, startCompletion} from '@codemirror/autocomplete';
import {defaultKeymap, history, historyKeymap} from '@codemirror/commands';
import {HighlightStyle, StreamLanguage, syntaxHighlighting} from '@codemirror/language';
import {EditorState, StateEffect, StateField} from '@codemirror/state';
import {Decoration, EditorView, keymap, placeholder} from '@codemirror/view';
import {tags} from '@lezer/highlight';
import {ATTRIBUTES, LEVELS, OPERATORS, OPTIONS, SYMBOLS, literal, tokens} from './conditions.js';

const WORDS = new Set([...OPERATORS, 'and', 'or', 'not', 'within']);

const language = StreamLanguage.define({
  startState: () => ({before: ''}),
  token(stream, state) {
    if (stream.eatSpace()) {
      return null;
    }
    const before = state.before;
    if (stream.match(/^"(?:\\.|[^"\\])*"?/)) {
      state.before = 'value';
      return 'string';
    }
    if (stream.match(/^--[a-z]+/)) {
      state.before = 'option';
      return 'meta';
    }
    if (stream.match(/^[=!<>]+/)) {
      state.before = 'symbol';
      return 'operator';
    }
    if (stream.match(/^[(),]/)) {
      state.before = stream.current() === ',' ? 'symbol' : state.before;
      return 'operator';
    }
    stream.match(/^[^\s=!<>(),"]+/) || stream.next();
    const word = stream.current().toLowerCase();
    if (before !== 'option' && WORDS.has(word)) {
      state.before = ['and', 'or', 'not'].includes(word) ? '' : 'symbol';
      return 'keyword';
    }
    state.before = before === 'symbol' ? 'value' : before === 'option' ? 'option' : 'name';
    return before === 'symbol' ? 'string' : before === 'option' ? 'number' : 'variableName';
  },
});

const colours = HighlightStyle.define([
  {tag: tags.variableName, color: 'var(--name)'},
  {tag: tags.string, color: 'var(--value)'},
  {tag: tags.number, color: 'var(--value)'},
  {tag: tags.keyword, color: 'var(--word)', fontWeight: '600'},
  {tag: tags.operator, color: 'var(--word)'},
  {tag: tags.meta, color: 'var(--option)', fontWeight: '600'},
]);

const setError = StateEffect.define();
const errors = StateField.define({
  create: () => Decoration.none,
  update(marks, transaction) {
    let now = transaction.docChanged ? Decoration.none : marks;
    for (const effect of transaction.effects) {
      if (effect.is(setError)) {
        const length = transaction.state.doc.length;
        const from = Math.max(0, Math.min(effect.value - 1, Math.max(0, length - 1)));
        const to = Math.min(length, Math.max(from + 1, wordEnd(transaction.state.doc.toString(), from)));
        now = effect.value && to > from ? Decoration.set([Decoration.mark({class: 'wrong'}).range(from, to)]) : Decoration.none;
      }
    }
    return now;
  },
  provide: field => EditorView.decorations.from(field),
});

function wordEnd(text, from) {
  const token = tokens(text).find(each => each.to > from);
  return token && token.from <= from ? token.to : from + 1;
}

/** What can be typed at a position, and where it begins. */
export function expected(text, at) {
  const before = tokens(text.slice(0, at));
  const last = before[before.length - 1];
  const isInside = last && last.to === at && (last.type === 'word' || last.type === 'option' || (last.type === 'text' && !/^".*"$/s.test(last.text)));
  const from = isInside ? last.from : at;
  const done = isInside ? before.slice(0, -1) : before;
  const words = done.map(token => token.type === 'word' ? token.text.toLowerCase() : token.text);
  const [previous, earlier] = [words[words.length - 1], words[words.length - 2]];
  const typed = text.slice(from, at);
  if (typed.startsWith('--')) {
    return {from, kind: 'option'};
  }
  if (previous === undefined || ['and', 'or', 'not', '('].includes(previous) && !isList(words)) {
    return {from, kind: 'name'};
  }
  if (SYMBOLS.includes(previous) || ['starts', 'ends', 'has', 'like', 'near', 'matches', 'between'].includes(previous)) {
    return {from, kind: 'value', name: earlierName(done)};
  }
  if (isList(words)) {
    return {from, kind: 'value', name: listName(done)};
  }
  const lastDone = done[done.length - 1];
  const isName = lastDone.type === 'word' && (earlier === undefined || ['and', 'or', 'not', '('].includes(earlier));
  return {from, kind: isName && !['exists', 'missing'].includes(previous) ? 'operator' : 'next'};
}

function earlierName(done) {
  return done[done.length - 2]?.text;
}

function isList(words) {
  const open = words.lastIndexOf('(');
  return open > 0 && words[open - 1] === 'in' && !words.slice(open).includes(')');
}

function listName(done) {
  const open = done.map(token => token.text).lastIndexOf('(');
  return done[open - 2]?.text;
}

/**
 * Creates the editor.
 *
 * @param parent is filled
 * @param suggestions `names()`: fields with their most frequent values; `questions()`: kept and recent ones
 * @param submit is called with the text
 */
export function createEditor(parent, text, suggestions, submit, nonce) {
  const submitted = view => {
    closeCompletion(view);
    submit(view.state.doc.toString());
    return true;
  };
  const view = new EditorView({
    parent,
    state: EditorState.create({
      doc: text,
      extensions: [
        history(),
        language,
        syntaxHighlighting(colours),
        errors,
        EditorView.cspNonce.of(nonce),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({'aria-label': 'Question: a condition and a window', 'autocapitalize': 'off', 'spellcheck': 'false'}),
        placeholder('all events; for example: level >= error and service = deck --last 1h'),
        EditorState.transactionFilter.of(change => change.newDoc.lines > 1
          ? [{changes: {from: 0, to: change.startState.doc.length, insert: change.newDoc.toString().replace(/\s*\n\s*/g, ' ')}, sequential: true,
            selection: {anchor: Math.min(change.newSelection.main.head, change.newDoc.toString().replace(/\s*\n\s*/g, ' ').length)}}]
          : change),
        autocompletion({override: [context => complete(context, suggestions)], icons: false, selectOnOpen: false}),
        keymap.of([
          {key: 'Enter', run: editor => completionStatus(editor.state) === 'active' && acceptCompletion(editor) || submitted(editor)},
          {key: 'Ctrl-Enter', run: submitted},
          {key: 'Tab', run: editor => completionStatus(editor.state) === 'active' && (selectedCompletion(editor.state) || moveCompletionSelection(true)(editor)) && acceptCompletion(editor)},
          {key: 'Escape', run: editor => {
            if (closeCompletion(editor)) {
              return true;
            }
            editor.contentDOM.blur();
            return true;
          }},
          {key: 'Alt-ArrowDown', run: startCompletion},
          ...completionKeymap, ...historyKeymap, ...defaultKeymap,
        ]),
      ],
    }),
  });
  return {
    text: () => view.state.doc.toString(),
    focus() {
      view.focus();
      view.dispatch({selection: {anchor: view.state.doc.length}});
    },
    set(next) {
      if (next !== view.state.doc.toString()) {
        view.dispatch({changes: {from: 0, to: view.state.doc.length, insert: next}});
      }
    },
    error(column) {
      view.dispatch({effects: setError.of(column)});
    },
  };
}

async function complete(context, suggestions) {
  const text = context.state.doc.toString();
  const {from, kind, name} = expected(text, context.pos);
  const typed = text.slice(from, context.pos);
  if (!typed && !context.explicit && kind !== 'value' && kind !== 'operator') {
    return null;
  }
  const options = await choices(kind, name, suggestions, text.trim() === typed);
  return options.length ? {from, options, validFor: /^[\w.\-"]*$/} : null;
}

async function choices(kind, name, suggestions, isFirst) {
  switch (kind) {
    case 'option':
      return OPTIONS.map(label => ({label, type: 'keyword'}));
    case 'name': {
      const fields = await suggestions.names();
      const kept = isFirst ? (await suggestions.questions()).map(each => ({label: each, type: 'text', detail: 'a question', boost: -50})) : [];
      const known = fields.map(field => ({label: field.name, detail: `${field.events.toLocaleString()} events`, boost: ATTRIBUTES.includes(field.name) ? 20 : 0}));
      const names = new Set(known.map(each => each.label));
      return [...known, ...ATTRIBUTES.filter(each => !names.has(each)).map(label => ({label})), {label: 'not', type: 'keyword'}, ...kept];
    }
    case 'operator':
      return [...SYMBOLS, ...OPERATORS].map(label => ({label, apply: ['exists', 'missing'].includes(label) ? label : `${label} `}));
    case 'value': {
      if (name === 'level') {
        return LEVELS.map(label => ({label}));
      }
      const field = (await suggestions.names()).find(each => each.name === name);
      return (field?.values ?? []).map(each => ({label: literal(each.value), detail: each.count.toLocaleString()}));
    }
    default:
      return [{label: 'and'}, {label: 'or'}, ...OPTIONS.map(label => ({label}))];
  }
}
