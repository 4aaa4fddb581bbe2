import { type RefObject, useEffect, useState } from 'react';

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** How large an element is, in pixels, as that changes; nothing until it is there. */
export function useSize(element: RefObject<HTMLElement | null>): Size {
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
