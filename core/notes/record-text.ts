import { settle, stationIds, stations } from '../chain/index.ts';
import { type DeliveryRecord, settingsOf, sourceOf } from '../documents/index.ts';
import { describeFacts } from '../facts/index.ts';
import { sheetForClip } from '../targets/index.ts';
import { type DeliveredSound, soundsOf, stemIn } from './files.ts';

const indented = (lines: readonly string[]) => lines.map((line) => `  ${line}`);

/** What every station did, and why: the chain is settled once more from what the record holds. */
function stationLines({ job, sheet, sources }: DeliveryRecord, { clip, artifact, slots }: DeliveredSound): string[] {
  const source = sources[sourceOf(clip)];
  if (!source) return [];
  const target = sheetForClip(sheet, clip.values, slots);
  const order = { facts: source.facts, settings: settingsOf(clip, job), target, stem: stemIn(artifact.path) };
  const chain = settle(order);
  return stationIds.map((id) => {
    const { figure, why } = chain.stations[id];
    return `${stations[id].title}: ${figure}. ${why}`;
  });
}

/** All that is known of a delivery as a text: what went in, what each station did, what came out, and how it was proved. */
export function recordText(record: DeliveryRecord): string {
  const { job, sheet, sources, artifacts, core, findings } = record;
  const sounds = soundsOf(record);
  const findingLine = ({ title, verdict, wanted, found, mend }: (typeof findings)[number]) =>
    `${verdict}: ${title}: ${found}; wanted ${wanted}${mend ? `; mend: ${mend}` : ''}`;
  const factLines = (facts: DeliveredSound['part']['facts'], name: string | null) =>
    describeFacts(facts, name).map(({ label, value }) => `${label}: ${value}`);
  const text = [
    `${job.title}, for ${sheet.name}`,
    `Made by version ${core} of Tambur's core.${record.id ? ` Delivery ${record.id}.` : ''}`,
    '',
    ...artifacts.flatMap((artifact) => [
      artifact.path,
      ...indented([`${artifact.bytes} bytes, SHA-256 ${artifact.sha256}`]),
      ...sounds
        .filter((sound) => sound.artifact === artifact)
        .flatMap((sound) => {
          const { clip, part } = sound;
          const source = sources[sourceOf(clip)];
          return [
            ...indented([`Clip: ${clip.name}`, `Went in: SHA-256 ${source?.sha256 ?? 'unknown'}`]),
            ...indented(indented(source ? factLines(source.facts, null) : [])),
            ...indented(['Stations:', ...indented(stationLines(record, sound))]),
            ...indented(['Came out, read again from its bytes:', ...indented(factLines(part.facts, artifact.path))]),
            ...indented(['Against the sheet:', ...indented(part.findings.map(findingLine))]),
          ];
        }),
      '',
    ]),
    ...(findings.length ? ['The set as a whole', ...indented(findings.map(findingLine)), ''] : []),
  ];
  return text.join('\n');
}
