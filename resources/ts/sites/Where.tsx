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

const PLACES = [
  ['here', 'In a folder of this machine'],
  ['sftp', 'On another machine, over SFTP'],
  ['s3', 'In an object store (S3)'],
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
  const [place, setPlace] = useState<string>(said?.remote?.kind ?? 'here');
  // Pages that are files have to lie here; only media may lie elsewhere.
  const isHere = engine === 'folder' || place === 'here';
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
          files: isHere ? text('files') : null,
          remote: isHere
            ? null
            : {
                kind: place,
                ...Object.fromEntries(LINES[place]?.map((name) => [name, text(`remote-${name}`)]) ?? []),
              },
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
          className="h-10 w-full rounded-md border border-edge bg-paper px-2 md:w-[calc(50%-0.75rem)]"
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
      {engine !== 'folder' && (
        <label className="md:col-span-2">
          <span className="block text-[0.88rem] text-soft">Files</span>
          <select
            value={place}
            onChange={(event) => setPlace(event.target.value)}
            className="h-10 w-full rounded-md border border-edge bg-paper px-2 md:w-[calc(50%-0.75rem)]"
          >
            {PLACES.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </label>
      )}
      {isHere && (
        <Field
          name="files"
          label="Folder of the files, as served at the address"
          value={said?.files}
          needed
          hint="/srv/mill/public"
        />
      )}
      {!isHere && <Elsewhere kind={place} said={said?.remote?.kind === place ? said.remote : null} />}
      <div className="flex items-end justify-end md:col-span-2">
        <Button type="submit" tone="main" disabled={busy}>
          {busy ? 'Trying…' : draft === null ? 'Try the connection' : 'Try again as said here'}
        </Button>
      </div>
    </form>
  );
}

const LINES: Record<string, readonly string[]> = {
  sftp: ['host', 'port', 'user', 'folder', 'password', 'key', 'fingerprint'],
  s3: ['bucket', 'prefix', 'endpoint', 'region', 'key', 'secret', 'acl'],
};

/** Files on another machine, or in an object store. Secrets that were said once are kept. */
function Elsewhere({ kind, said }: { kind: string; said: Draft['said']['remote'] }) {
  const kept = said?.has_secret === true ? ' (kept; type to change it)' : '';
  if (kind === 'sftp')
    return (
      <>
        <Field name="remote-host" label="Machine of the files" value={said?.host} needed />
        <Field name="remote-port" label="Port, if not 22" value={said?.port} number />
        <Field name="remote-user" label="User there" value={said?.user} needed />
        <Field
          name="remote-folder"
          label="Folder there, as served at the address"
          value={said?.folder}
          needed
        />
        <Field name="remote-password" label={`Password, or that of the key${kept}`} secret />
        <label>
          <span className="block text-[0.88rem] text-soft">Private key, in place of a password{kept}</span>
          <textarea
            name="remote-key"
            rows={2}
            spellCheck={false}
            autoComplete="off"
            className="path w-full rounded-md border border-edge bg-paper px-2 py-1"
          />
        </label>
        <Field
          name="remote-fingerprint"
          label="Fingerprint of the machine’s key"
          value={said?.fingerprint}
          hint="SHA256:… as ssh-keygen -lf says it"
        />
      </>
    );
  return (
    <>
      <Field name="remote-bucket" label="Bucket" value={said?.bucket} needed />
      <Field name="remote-prefix" label="Below, if not all of it" value={said?.prefix} hint="www/" />
      <Field
        name="remote-endpoint"
        label="Address of the store, if it is one of your own"
        value={said?.endpoint}
      />
      <Field name="remote-region" label="Region" value={said?.region} hint="us-east-1" />
      <Field name="remote-key" label={`Key${kept}`} />
      <Field name="remote-secret" label={`Secret${kept}`} secret hint="Kept encrypted, never shown again" />
      <Field
        name="remote-acl"
        label="Rule for new objects, where the bucket’s own does not decide"
        value={said?.acl}
        hint="public-read"
      />
    </>
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
