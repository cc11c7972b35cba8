import { QueryClient, QueryClientProvider, useQueryClient } from '@tanstack/react-query';
import { Dialog, Tooltip } from 'radix-ui';
import { useEffect, useState } from 'react';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { Problem, whenSignedOut } from './api/client';
import { useSession, useSites } from './api/hooks';
import type { Session } from './api/types';
import { ChangePage } from './changes/ChangePage';
import { ChangesPage } from './changes/ChangesPage';
import { DeskPage } from './desk/DeskPage';
import { FindPage } from './find/FindPage';
import { CoveragePage } from './map/CoveragePage';
import { MapPage } from './map/MapPage';
import { UnreadPage } from './map/UnreadPage';
import { VersionsPage } from './map/VersionsPage';
import { ItemPage } from './media/ItemPage';
import { ItemReport } from './media/ItemReport';
import { MediaPage } from './media/MediaPage';
import { PeoplePage } from './people/PeoplePage';
import { LeavesPage } from './places/LeavesPage';
import { PlacesPage } from './places/PlacesPage';
import { RecordPage } from './places/RecordPage';
import { RecordReport } from './places/RecordReport';
import { PlanPage } from './plans/PlanPage';
import { FamilyPage } from './repairs/FamilyPage';
import { HostsPage } from './repairs/HostsPage';
import { MovePage } from './repairs/MovePage';
import { RedirectsPage } from './repairs/RedirectsPage';
import { RepairsPage } from './repairs/RepairsPage';
import { SurveyPage } from './repairs/SurveyPage';
import { CopiesPage } from './resting/CopiesPage';
import { KeepingPage } from './resting/KeepingPage';
import { LogsPage } from './resting/LogsPage';
import { RenditionsPage } from './resting/RenditionsPage';
import { RestingPage } from './resting/RestingPage';
import { WeightPage } from './resting/WeightPage';
import { Shell } from './shell/Shell';
import { SignIn } from './shell/SignIn';
import { Welcome } from './shell/Welcome';
import { ConnectPage } from './sites/ConnectPage';
import { SitesFrame } from './sites/SitesFrame';
import { SitesPage } from './sites/SitesPage';
import { SwapPage } from './swap/SwapPage';
import { FailedPage, Page } from './ui/Page';
import { Empty, Loading } from './ui/States';
import { useGiveBack } from './ui/useGiveBack';

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 20_000,
      refetchOnWindowFocus: false,
      // A sentence from the server will not change by asking again at once.
      retry: (count, error) => !(error instanceof Problem && error.status >= 400) && count < 2,
    },
  },
});

const router = createBrowserRouter([
  { path: '/', element: <FirstSite /> },
  {
    path: '/sites',
    element: <SitesFrame />,
    children: [
      { index: true, element: <SitesPage /> },
      { path: 'people', element: <PeoplePage /> },
      { path: 'connect', element: <ConnectPage /> },
      { path: 'connect/:draft', element: <ConnectPage /> },
    ],
  },
  {
    path: '/:site',
    element: <Shell />,
    children: [
      { index: true, element: <Navigate to="desk" replace /> },
      { path: 'desk', element: <DeskPage /> },
      { path: 'media', element: <MediaPage /> },
      { path: 'media/:item', element: <ItemPage /> },
      { path: 'media/:item/report', element: <ItemReport /> },
      { path: 'media/:item/swap', element: <SwapPage /> },
      { path: 'plans/:plan', element: <PlanPage /> },
      { path: 'find', element: <FindPage /> },
      { path: 'places', element: <PlacesPage /> },
      { path: 'places/:record/report', element: <RecordReport /> },
      { path: 'places/:record/leaves', element: <LeavesPage /> },
      { path: 'places/:record', element: <RecordPage /> },
      { path: 'repairs', element: <RepairsPage /> },
      { path: 'repairs/hosts', element: <HostsPage /> },
      { path: 'repairs/move', element: <MovePage /> },
      { path: 'repairs/redirects', element: <RedirectsPage /> },
      { path: 'repairs/survey/:list', element: <SurveyPage /> },
      { path: 'repairs/:cause', element: <FamilyPage /> },
      { path: 'resting', element: <RestingPage /> },
      { path: 'resting/copies', element: <CopiesPage /> },
      { path: 'resting/renditions', element: <RenditionsPage /> },
      { path: 'resting/weight', element: <WeightPage /> },
      { path: 'resting/logs', element: <LogsPage /> },
      { path: 'resting/keeping', element: <KeepingPage /> },
      { path: 'map', element: <MapPage /> },
      { path: 'map/coverage', element: <CoveragePage /> },
      { path: 'map/unread', element: <UnreadPage /> },
      { path: 'map/versions', element: <VersionsPage /> },
      { path: 'map/versions/:version', element: <VersionsPage /> },
      { path: 'changes', element: <ChangesPage /> },
      { path: 'changes/:change', element: <ChangePage /> },
      {
        path: '*',
        element: (
          <Page title="Nothing here">
            <Empty title="There is nothing at this address">Choose a stage above.</Empty>
          </Page>
        ),
      },
    ],
  },
]);

function FirstSite() {
  const sites = useSites();
  if (sites.isPending) return <Loading />;
  if (sites.isError) return <FailedPage title="Sites" error={sites.error} again={sites.refetch} />;
  const first = sites.data.sites[0];
  return <Navigate to={first ? `/${first.slug}/desk` : '/sites'} replace />;
}

/** A link by which a password is chosen leads past the sign-in, whoever is signed in. */
function Door() {
  return window.location.pathname === '/welcome' ? <Welcome /> : <Signed />;
}

function Signed() {
  const session = useSession();
  const queries = useQueryClient();
  const [ended, setEnded] = useState(false);
  useEffect(() => whenSignedOut(() => setEnded(true)), []);
  if (session.isPending) return null;
  if (session.isError) return <FailedPage title="Ylema" error={session.error} again={session.refetch} />;
  if (!session.data.user) return <SignIn session={session.data} />;
  return (
    <>
      <RouterProvider router={router} />
      {ended && (
        <SignInAgain
          session={session.data}
          onEntered={() => {
            setEnded(false);
            void queries.invalidateQueries({ predicate: (query) => query.state.status === 'error' });
          }}
        />
      )}
    </>
  );
}

/** Over the view as it stands, so that nothing on it is lost. */
function SignInAgain({ session, onEntered }: { session: Session; onEntered: () => void }) {
  const giveBack = useGiveBack();
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onEscapeKeyDown={(e) => e.preventDefault()}
          onCloseAutoFocus={giveBack}
          className="fixed inset-0 z-50 overflow-y-auto bg-paper/90"
        >
          <Dialog.Title className="sr-only">Your session has ended</Dialog.Title>
          <SignIn
            session={session}
            note="Your session has ended. Sign in again; what is open stays as it is."
            onEntered={onEntered}
          />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

export function App() {
  return (
    <QueryClientProvider client={client}>
      <Tooltip.Provider delayDuration={250}>
        <Door />
        <Toaster position="top-right" closeButton toastOptions={{ className: 'font-sans' }} />
      </Tooltip.Provider>
    </QueryClientProvider>
  );
}
