import { useState } from 'react';
import { useLocation } from 'react-router';
import { toast } from 'sonner';
import { body, client } from '@/api/client';
import { useMay, useSlug } from '@/api/hooks';
import type { SiteMap } from '@/api/types';
import { Button } from '@/ui/Button';
import { sayProblem } from '@/ui/Notice';
import { Failed, Loading } from '@/ui/States';
import { MapEditor } from './MapEditor';
import { MapFrame } from './MapFrame';
import { useMap, useTakeMap } from './useMap';

/** The field map of a site, with what it reads beside it; an owner changes it. */
export function MapPage() {
  const map = useMap();
  const proposed = (useLocation().state as { map?: string } | null)?.map;
  return (
    <MapFrame>
      {map.isError ? (
        <Failed error={map.error} again={map.refetch} />
      ) : map.isPending ? (
        <Loading rows={8} />
      ) : (
        <Editing site={map.data} proposed={proposed} />
      )}
    </MapFrame>
  );
}

function Editing({ site, proposed }: { site: SiteMap; proposed: string | undefined }) {
  const slug = useSlug();
  const { own } = useMay();
  const [text, setText] = useState(proposed ?? site.map);
  const [reason, setReason] = useState('');
  const take = useTakeMap();
  if (!own)
    return (
      <pre
        tabIndex={0}
        role="region"
        aria-label="Field map, in YAML"
        className="path sheet h-full overflow-y-auto p-4 break-words whitespace-pre-wrap"
      >
        {site.map}
      </pre>
    );
  return (
    <MapEditor
      id={slug}
      map={site.map}
      text={text}
      onText={setText}
      lines={site.lines}
      notations={site.notations}
      fileName={`${slug}-map.yaml`}
      onTables={() => body(client.GET('/sites/{site}/map/tables', { params: { path: { site: slug } } }))}
      onTry={(map, kind) =>
        body(client.POST('/sites/{site}/map/try', { params: { path: { site: slug } }, body: { map, kind } }))
      }
    >
      {(isSound) =>
        text !== site.map && (
          <>
            <Button tone="quiet" onClick={() => setText(site.map)}>
              Back to what holds
            </Button>
            <input
              aria-label="Why, for whoever looks back"
              placeholder="Why, for whoever looks back"
              value={reason}
              maxLength={200}
              onChange={(event) => setReason(event.target.value)}
              className="h-9 w-56 rounded-md border border-edge bg-paper px-2"
            />
            <Button
              tone="main"
              disabled={!isSound || take.isPending}
              onClick={() =>
                take.mutate(
                  { map: text, reason: reason.trim() || null },
                  {
                    onSuccess: (taken) => {
                      setText(taken.map);
                      setReason('');
                      toast.success('Taken. It holds from the next reading on.');
                    },
                    onError: sayProblem,
                  },
                )
              }
            >
              {take.isPending ? 'Taking it…' : 'Take this map'}
            </Button>
          </>
        )
      }
    </MapEditor>
  );
}
