import { useParams } from 'react-router';
import { useMay, useMediaItem, useTrail } from '@/api/hooks';
import { FailedPage, Page } from '@/ui/Page';
import { Empty, Loading } from '@/ui/States';
import { useTitle } from '@/ui/useTitle';
import { fileName } from '@/ui/words';
import { Bench } from './Bench';

export function SwapPage() {
  const { item: id = '' } = useParams();
  const item = useMediaItem(id);
  const trail = useTrail(id);
  const { maintain } = useMay();
  useTitle(item.data && `Swap ${item.data.title || fileName(item.data.path)}`);
  if (item.isError || trail.isError)
    return <FailedPage title="Swap" error={item.error ?? trail.error} again={item.refetch} />;
  if (!maintain)
    return (
      <Page title="Swap">
        <Empty title="Your role looks">A maintainer swaps files. Ask an owner for that role.</Empty>
      </Page>
    );
  if (!item.data || !trail.data)
    return (
      <Page title="Swap">
        <Loading rows={6} height={70} />
      </Page>
    );
  return <Bench key={id} item={item.data} trail={trail.data} />;
}
