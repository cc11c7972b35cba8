import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { yaml } from '@codemirror/lang-yaml';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { type Diagnostic, setDiagnostics } from '@codemirror/lint';
import { unifiedMergeView } from '@codemirror/merge';
import { EditorState } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { basicSetup } from 'codemirror';
import { useEffect, useRef } from 'react';
import { placeAt } from './yamlPlace';

interface Props {
  label: string;
  value: string;
  onChange?: (value: string) => void;
  /** What may stand at a place: `records.*.fields.*`, with its column. */
  words?: (place: string[], isValue: boolean) => readonly string[];
  problem?: { line: number | null; words: string } | null;
  /** Shown as what was changed since this text. */
  since?: string;
}

/** YAML with its lines, its words offered, and what is wrong at its line. */
export default function Yaml({ label, value, onChange, words, problem, since }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  // What the editor calls is always that of the last drawing, though it was made with the first.
  const latest = useRef({ onChange, words });
  useEffect(() => {
    latest.current = { onChange, words };
  });
  const isFixed = onChange === undefined;
  useEffect(() => {
    const editor = new EditorView({
      parent: frame.current ?? undefined,
      doc: value,
      extensions: [
        basicSetup,
        yaml(),
        syntaxHighlighting(COLOURS),
        THEME,
        EditorView.contentAttributes.of({ 'aria-label': label, tabindex: '0' }),
        EditorState.readOnly.of(isFixed),
        EditorView.editable.of(!isFixed),
        autocompletion({
          override: [(context) => offered(context, latest.current.words)],
          activateOnTyping: true,
        }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) latest.current.onChange?.(update.state.doc.toString());
        }),
        ...(since === undefined
          ? []
          : [unifiedMergeView({ original: since, mergeControls: false, collapseUnchanged: { margin: 3 } })]),
      ],
    });
    view.current = editor;
    return () => editor.destroy();
    // Made once; what comes later is handed in below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [label, isFixed, since]);

  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== value)
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);

  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const found: Diagnostic[] = [];
    if (problem?.line != null && problem.line <= editor.state.doc.lines) {
      const line = editor.state.doc.line(Math.max(1, problem.line));
      found.push({ from: line.from, to: line.to, severity: 'error', message: problem.words });
    }
    editor.dispatch(setDiagnostics(editor.state, found));
  }, [problem]);

  return <div ref={frame} className="h-full min-h-0 overflow-hidden rounded-md border border-edge" />;
}

function offered(context: CompletionContext, words: Props['words']): CompletionResult | null {
  const line = context.state.doc.lineAt(context.pos);
  const before = line.text.slice(0, context.pos - line.from);
  const at = placeAt(context.state.doc.toString(), line.number, before);
  const options = words?.(at.place, at.isValue) ?? [];
  if (options.length === 0 || (!context.explicit && at.typed === '')) return null;
  return {
    from: context.pos - at.typed.length,
    options: options.map((word) => ({
      label: word,
      type: at.isValue ? 'enum' : 'property',
      apply: at.isValue ? word : `${word}: `,
    })),
    validFor: /^[\w-]*$/,
  };
}

const COLOURS = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--accent)', fontWeight: '500' },
  { tag: tags.comment, color: 'var(--soft)', fontStyle: 'italic' },
  { tag: [tags.string, tags.content], color: 'var(--ink)' },
]);

const THEME = EditorView.theme({
  '&': { height: '100%', backgroundColor: 'var(--sheet)', color: 'var(--ink)', fontSize: '0.86rem' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '1.5' },
  '.cm-gutters': {
    backgroundColor: 'var(--paper)',
    color: 'var(--soft)',
    borderRight: '1px solid var(--line)',
  },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--tint)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground, ::selection': {
    backgroundColor: 'var(--line) !important',
  },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', border: '1px solid var(--edge)', color: 'var(--ink)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    backgroundColor: 'var(--accent)',
    color: 'var(--on-accent)',
  },
});
