import { useEffect, useRef } from 'react';
import { useIsDark } from '../ui/theme.ts';
import { useSize } from './use-size.ts';

interface Props {
  readonly label: string;
  readonly className: string;
  readonly draw: (context: CanvasRenderingContext2D, width: number, height: number) => void;
}

/** A picture that is drawn again when its size, the theme or `draw` changes; sharp on every screen. */
export function Canvas({ label, className, draw }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useSize(canvas);
  const isDark = useIsDark();

  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes the colours that `draw` reads
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context || size.width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(size.width * ratio);
    element.height = Math.round(size.height * ratio);
    context.scale(ratio, ratio);
    draw(context, size.width, size.height);
  }, [draw, size, isDark]);

  return <canvas ref={canvas} role="img" aria-label={label} className={className} />;
}
