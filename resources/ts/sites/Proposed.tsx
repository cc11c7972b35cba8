import { useState } from 'react';
import { body, client } from '@/api/client';
import type { Draft } from '@/api/types';
import { MapEditor } from '@/map/MapEditor';
import { Button } from '@/ui/Button';
import { many } from '@/ui/words';

/** What Ylema is unsure of; its own answer holds until somebody gives another. */
export function Questions({
  draft,
  busy,
  onAnswered,
}: {
  draft: Draft;
  busy: boolean;
  onAnswered: (answers: Record<string, string>) => void;
}) {
  const [answers, setAnswers] = useState<Record<string, string>>({});
  if (draft.questions.length === 0) return null;
  return (
    <section aria-label="Questions" className="sheet max-w-5xl p-4">
      <h2 className="text-[1.05rem] font-semibold">{many(draft.questions.length, 'question')}</h2>
      <p className="mb-3 text-soft">What is chosen now is what Ylema takes it to be.</p>
      <ol className="grid gap-4">
        {draft.questions.map((question) => (
          <li key={question.id} className="min-w-0">
            <label>
              <span className="block wrap-anywhere">{question.words}</span>
              {question.samples.length > 0 && (
                <span className="path line-clamp-2 wrap-anywhere text-soft">
                  Seen: {question.samples.join(' · ')}
                </span>
              )}
              <select
                value={answers[question.id] ?? question.answer ?? question.answers[0]?.id ?? ''}
                onChange={(event) => setAnswers({ ...answers, [question.id]: event.target.value })}
                className="mt-1 h-10 w-full max-w-2xl rounded-md border border-edge bg-paper px-2"
              >
                {question.answers.map((answer) => (
                  <option key={answer.id} value={answer.id}>
                    {answer.words}
                  </option>
                ))}
              </select>
            </label>
          </li>
        ))}
      </ol>
      <div className="mt-4 flex justify-end">
        <Button disabled={busy || Object.keys(answers).length === 0} onClick={() => onAnswered(answers)}>
          Propose again with these answers
        </Button>
      </div>
    </section>
  );
}

/** Which records the map reads, each field with what speaks for it. */
export function Kinds({ draft }: { draft: Draft }) {
  return (
    <section aria-label="What will be read" className="sheet max-w-5xl overflow-x-auto p-4">
      <h2 className="mb-2 text-[1.05rem] font-semibold">
        {many(draft.kinds.length, 'kind')} of record will be read
      </h2>
      <table className="w-full text-left">
        <thead className="text-[0.85rem] text-soft">
          <tr>
            <th className="w-36 py-1 pr-4 font-normal">Kind</th>
            <th className="w-44 py-1 pr-4 font-normal">Table or files</th>
            <th className="w-56 py-1 pr-4 font-normal">Address</th>
            <th className="py-1 font-normal">Fields, and what speaks for them</th>
          </tr>
        </thead>
        <tbody className="divide-y divide-line align-top">
          {draft.kinds.map((kind) => (
            <tr key={kind.kind}>
              <td className="py-1.5 pr-4 font-semibold">{kind.kind}</td>
              <td className="path py-1.5 pr-4 break-words">{kind.table}</td>
              <td className="py-1.5 pr-4 break-words">
                {kind.address === null ? (
                  <span className="text-soft">no page of its own</span>
                ) : (
                  <span className="path">{kind.address}</span>
                )}
              </td>
              <td className="py-1.5">
                {kind.fields.length === 0 ? (
                  <span className="text-soft">carries others</span>
                ) : (
                  kind.fields.map((field) => (
                    <span key={field.name} className="block">
                      <span className="path">{field.name}</span>
                      {field.why !== null && <span className="text-soft">: {field.why}</span>}
                    </span>
                  ))
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {draft.left_out.length > 0 && (
        <details className="mt-3">
          <summary className="cursor-pointer">
            {many(draft.left_out.length, 'table')} left out, each with its reason
          </summary>
          <ul className="mt-1">
            {draft.left_out.map((one) => (
              <li key={one.table}>
                <span className="path">{one.table}</span>
                <span className="text-soft">: {one.why}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

/** The map itself, for whoever wants to read or change it. */
export function MapText({
  draft,
  busy,
  onChanged,
}: {
  draft: Draft;
  busy: boolean;
  onChanged: (map: string) => void;
}) {
  const [text, setText] = useState(draft.map ?? '');
  const [isOpen, setOpen] = useState(false);
  return (
    <details className="sheet p-4" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold">The field map itself, and what it reads</summary>
      {isOpen && (
        <div className="mt-3 h-[36rem] max-lg:h-auto">
          <MapEditor
            id={`draft-${draft.id}`}
            map={draft.map ?? ''}
            text={text}
            onText={setText}
            lines={draft.lines}
            notations={draft.notations}
            fileName="map.yaml"
            onTables={() =>
              body(client.GET('/drafts/{draft}/tables', { params: { path: { draft: draft.id } } }))
            }
            onTry={(map, kind) =>
              body(
                client.POST('/drafts/{draft}/try', {
                  params: { path: { draft: draft.id } },
                  body: { map, kind },
                }),
              )
            }
          >
            {(isSound) => (
              <Button disabled={busy || text === draft.map || !isSound} onClick={() => onChanged(text)}>
                Keep this map
              </Button>
            )}
          </MapEditor>
        </div>
      )}
    </details>
  );
}
