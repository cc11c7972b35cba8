import { useState, type ReactNode } from 'react';
import type { Draft, DraftAsked } from '@/api/types';
import { Button } from '@/ui/Button';
import { typedInto } from '@/ui/form';

const ENGINES = [
  ['mariadb', 'MariaDB'],
  ['mysql', 'MySQL'],
  ['postgresql', 'PostgreSQL'],
  ['sqlite', 'SQLite file'],
  ['folder', 'No database: the files are the content'],
] as const;

/** Where the site is served, where its content is and where its files lie. */
export function Where({
  draft,
  busy,
  onSaid,
}: {
  draft: Draft | null;
  busy: boolean;
  onSaid: (asked: DraftAsked) => void;
}) {
  const said = draft?.said;
  const [engine, setEngine] = useState(said?.engine ?? 'mariadb');
  const isServer = engine !== 'sqlite' && engine !== 'folder';
  return (
    <form
      className="sheet grid max-w-5xl gap-x-6 gap-y-3 p-4 md:grid-cols-2"
      onSubmit={(event) => {
        event.preventDefault();
        const text = typedInto(event.currentTarget);
        const port = text('port');
        onSaid({
          name: text('name') ?? '',
          address: text('address') ?? '',
          former: (text('former') ?? '').split(/\s+/).filter((one) => one !== ''),
          engine: engine as DraftAsked['engine'],
          host: text('host'),
          port: port === null ? null : Number(port),
          database: text('database'),
          user: text('user'),
          password: text('password'),
          file: text('file'),
          files: text('files') ?? '',
          reach_at: text('reach_at'),
        });
      }}
    >
      <Field name="name" label="Name of the site" value={said?.name} needed autoFocus={draft === null} />
      <Field
        name="address"
        label="Address now"
        value={said?.address}
        needed
        hint="https://hollinmill.example/"
      />
      <Field
        name="former"
        label="Addresses before, if any"
        value={said?.former.join(' ')}
        hint="Links there still mean this site"
      />
      <Field
        name="reach_at"
        label="Reached from here at, if otherwise"
        value={said?.reach_at ?? ''}
        hint="http://127.0.0.1:8080"
      />
      <label className="md:col-span-2">
        <span className="block text-[0.88rem] text-soft">Content</span>
        <select
          value={engine}
          onChange={(event) => setEngine(event.target.value)}
          className="h-10 w-full rounded-md border border-edge bg-paper px-2 md:w-1/2"
        >
          {ENGINES.map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {isServer && (
        <>
          <Field name="host" label="Machine" value={said?.host ?? '127.0.0.1'} needed />
          <Field name="port" label="Port, if not the usual one" value={String(said?.port ?? '')} number />
          <Field name="database" label="Database" value={said?.database ?? ''} needed />
          <Field name="user" label="User" value={said?.user ?? ''} needed />
          <Field
            name="password"
            label={said?.has_password ? 'Password (kept; type to change it)' : 'Password'}
            secret
            hint="Kept encrypted, never shown again"
          />
        </>
      )}
      {engine === 'sqlite' && <Field name="file" label="Database file" value={said?.file ?? ''} needed />}
      <Field
        name="files"
        label="Folder of the files, as served at the address"
        value={said?.files}
        needed
        hint="/srv/mill/public"
      />
      <div className="flex items-end justify-end md:col-span-2">
        <Button type="submit" tone="main" disabled={busy}>
          {busy ? 'Trying…' : draft === null ? 'Try the connection' : 'Try again as said here'}
        </Button>
      </div>
    </form>
  );
}

function Field({
  name,
  label,
  value = '',
  hint,
  needed = false,
  secret = false,
  number = false,
  autoFocus = false,
}: {
  name: string;
  label: ReactNode;
  value?: string | undefined;
  hint?: string;
  needed?: boolean;
  secret?: boolean;
  number?: boolean;
  autoFocus?: boolean;
}) {
  return (
    <label>
      <span className="block text-[0.88rem] text-soft">{label}</span>
      <input
        name={name}
        type={secret ? 'password' : 'text'}
        inputMode={number ? 'numeric' : undefined}
        pattern={number ? '[0-9]*' : undefined}
        defaultValue={value}
        placeholder={hint}
        required={needed}
        autoFocus={autoFocus}
        autoComplete="off"
        spellCheck={false}
        className="path h-10 w-full rounded-md border border-edge bg-paper px-2 placeholder:text-soft"
      />
    </label>
  );
}
