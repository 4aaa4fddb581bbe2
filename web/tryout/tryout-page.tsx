import { messageOf, type Target, withVariant } from '@tambur/core';
import { CreditCard } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useParams, useSearchParams } from 'react-router';
import { fetchBytes } from '../api/client.ts';
import { useDelivery, useTargets } from '../api/queries.ts';
import { givenIn } from '../check/given.ts';
import { sheetOf } from '../job/sheets.ts';
import { variantIn } from '../job/variants.ts';
import { DeviceChoice } from '../targets/device-choice.tsx';
import { Button } from '../ui/button.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { type CardToTry, cardOfDelivery, cardOfGiven } from './card.ts';
import { Standin } from './standin.tsx';

/** A card in a stand-in of its device: hear it before walking there. */
export function TryoutPage() {
  const { deliveryId } = useParams();
  return deliveryId ? <OfDelivery key={deliveryId} deliveryId={deliveryId} /> : <OfAnything />;
}

const HEADING = 'Try-out';

/** A card of the demo scenario with planted faults, and what a made-up handheld made of it. */
const DEMO = {
  target: 'two-way-radio-prompt',
  card: '/try-out/guards-card.zip',
  recording: '/try-out/upper-station-on-a-handheld.wav',
} as const;

function OfDelivery({ deliveryId }: { deliveryId: string }) {
  const delivery = useDelivery(deliveryId);
  const [card, setCard] = useState<CardToTry | null>(null);
  const [count, setCount] = useState(0);
  const [problem, setProblem] = useState<Error | null>(null);
  const built = delivery.data?.state === 'done' ? delivery.data : null;
  useEffect(() => {
    if (!built) return;
    const stop = new AbortController();
    cardOfDelivery(built, setCount, stop.signal).then(setCard, (error: unknown) => {
      if (!stop.signal.aborted) setProblem(new Error(messageOf(error)));
    });
    return () => stop.abort();
  }, [built]);
  const error = delivery.error ?? problem;
  if (error) return <Failed error={error} />;
  if (delivery.data?.state === 'building') return <Loading what="the files while they are built" />;
  if (delivery.data && !built)
    return <Failed error={new Error('This delivery has no files to try; build it first.')} />;
  if (!built) return <Loading what="the delivery" />;
  if (!card) return <Loading what={`the files of the delivery, ${count} of ${built.artifacts.length}`} />;
  return (
    <div className="mx-auto w-full max-w-[90rem] px-4 py-5 sm:px-6">
      <title>{`Try-out of ${built.jobTitle} – Tambur`}</title>
      <p className="text-sm">
        <Link to={`/deliveries/${built.id}`} className="underline underline-offset-2">
          Back to the delivery
        </Link>
      </p>
      <h1 className="mt-2 text-2xl font-bold tracking-tight">{HEADING}</h1>
      <p className="text-graphite">
        {built.jobTitle} in a stand-in of its device: {built.sheet.name}
      </p>
      <Standin target={built.sheet} card={card} />
    </div>
  );
}

function OfAnything() {
  const targets = useTargets();
  const sheets = useMemo(() => targets.data?.map(sheetOf), [targets.data]);
  if (targets.error) return <Failed error={targets.error} retry={() => void targets.refetch()} />;
  if (!sheets) return <Loading what="the sheets" />;
  return <Anything targets={sheets} />;
}

function Anything({ targets }: { targets: readonly Target[] }) {
  const [search, setSearch] = useSearchParams();
  const sheet = targets.find(({ id }) => id === search.get('target')) ?? targets[0];
  const variantId = sheet ? variantIn(sheet, search.get('variant')) : null;
  const [card, setCard] = useState<CardToTry | null>(null);
  const add = async (dropped: readonly File[]) => {
    try {
      const [first] = await givenIn(dropped);
      if (first) setCard(await cardOfGiven(first));
    } catch (error) {
      notifyFailure(error);
    }
  };
  const takeDemo = async () => {
    try {
      setSearch({ target: DEMO.target }, { replace: true });
      const zip = await fetchBytes(DEMO.card);
      await add([new File([zip], DEMO.card.slice(DEMO.card.lastIndexOf('/') + 1))]);
    } catch (error) {
      void notifyFailure(error);
    }
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (dropped) => void add(dropped),
    noClick: true,
    noKeyboard: true,
  });
  if (!sheet) return null;
  const target = withVariant(sheet, variantId);
  const choose = (id: string, variant: string | null) =>
    setSearch({ target: id, ...(variant ? { variant } : {}) }, { replace: true });
  return (
    <div className="mx-auto w-full max-w-[90rem] px-4 py-6 sm:px-6">
      <title>Try-out – Tambur</title>
      <h1 className="text-2xl font-bold tracking-tight">{HEADING}</h1>
      <p className="mt-1 text-graphite">
        A card, a ZIP or a file in a stand-in of its device: what it shows, refuses and plays. It stays where it is.
      </p>
      <div className="mt-4 grid gap-x-10 gap-y-4 lg:grid-cols-[20rem_minmax(0,1fr)]">
        <DeviceChoice targets={targets} target={sheet} variantId={variantId} onChange={choose} />
        <div
          {...getRootProps({
            className: `flex flex-wrap items-center justify-center gap-x-4 gap-y-2 border-2 border-dashed p-5 ${
              card ? '' : 'min-h-36'
            } ${isDragActive ? 'border-pine bg-pine-tint' : 'border-rule bg-sheet'}`,
          })}
        >
          <input {...getInputProps({ 'aria-label': 'A card to try' })} />
          <CreditCard className="size-7 text-pine" strokeWidth={1.25} aria-hidden />
          <p className="font-semibold">{card ? card.title : 'Drop a folder, a ZIP or files here'}</p>
          <Button kind={card ? 'plain' : 'main'} onClick={open}>
            {card ? 'Choose others' : 'Choose files'}
          </Button>
        </div>
      </div>
      {!card && (
        <p className="mt-4 text-sm text-graphite">
          Nothing at hand?{' '}
          <Button kind="link" onClick={() => void takeDemo()}>
            Put the guards’ card in
          </Button>
          , on which five things are wrong. There is also{' '}
          <a href={DEMO.recording} download className="underline underline-offset-2">
            a recording
          </a>{' '}
          of its upper-station.wav on one of their handhelds, to be listened to below.
        </p>
      )}
      {card && <Standin key={`${sheet.id} ${variantId}`} target={target} card={card} />}
    </div>
  );
}
