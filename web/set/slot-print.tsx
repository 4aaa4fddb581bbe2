import { formatSeconds, type SlotLine, type Target } from '@tambur/core';

interface Props {
  readonly title: string;
  readonly target: Target;
  readonly lines: readonly SlotLine[];
}

/** What plays where, on paper: by it a device is set up by hand. */
export function SlotPrint({ title, target, lines }: Props) {
  return (
    <section className="hidden p-4 print:block">
      <h1 className="text-xl font-bold">{title}</h1>
      <p>For {target.name}</p>
      <table className="mt-4 w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-ink">
            {[target.places?.words[0] ?? 'number', 'sound', 'file', 'length'].map((word) => (
              <th key={word} className="py-1 pr-4 font-semibold">
                {word}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ number, sound, file, seconds }) => (
            <tr key={number} className="break-inside-avoid border-b border-hairline">
              <td className="figure py-1 pr-4">
                {[number, target.places?.labels[number]].filter((part) => part !== undefined).join(', ')}
              </td>
              <td className="py-1 pr-4">{sound}</td>
              <td className="figure py-1 pr-4">{file}</td>
              <td className="figure py-1">{formatSeconds(seconds)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
