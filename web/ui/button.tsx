import type { ButtonHTMLAttributes, ReactNode, Ref } from 'react';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /**
   * `main` for the one thing to do on a view, `plain` for the rest, `quiet` inside rows, `icon` for a square with a
   * picture in it, `way` for a way out of trouble, `link` within a sentence, `bare` for what is pressed as a whole and
   * has a look of its own: a row, a heading, a station.
   */
  readonly kind?: keyof typeof looks;
  readonly ref?: Ref<HTMLButtonElement>;
  readonly children: ReactNode;
}

const framed = 'inline-flex min-h-6 items-center justify-center gap-1.5 whitespace-nowrap disabled:opacity-45';

const looks = {
  main: `${framed} border border-transparent bg-pine text-paper px-4 py-1.5 font-semibold hover:opacity-90`,
  plain: `${framed} border border-rule px-3 py-1.5 hover:border-ink hover:bg-sheet`,
  quiet: `${framed} px-1.5 py-1 text-graphite hover:text-ink hover:bg-hairline/60`,
  danger: `${framed} border border-transparent bg-brick text-paper px-4 py-1.5 font-semibold hover:opacity-90`,
  icon: `${framed} size-8 border border-rule hover:border-ink hover:bg-sheet`,
  way: 'border border-brick px-2 py-0.5 text-left text-sm hover:bg-paper',
  link: 'underline underline-offset-2',
  bare: '',
} as const;

export function Button({ kind = 'plain', className = '', type = 'button', ...rest }: Props) {
  return <button type={type} className={`${looks[kind]} ${className}`} {...rest} />;
}
