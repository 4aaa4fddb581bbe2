import { messageOf } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import type { Manner } from '@tambur/speech';
import { useEffect, useRef, useState } from 'react';
import { keepSpoken, speak } from './speech-client.ts';

/** Speaks prompts in one manner: to be heard, or to be kept. One problem at a time is told; all ends with the view. */
export function useSpeaking(manner: Manner) {
  const [heard, setHeard] = useState<string | null>(null);
  const [made, setMade] = useState<{ readonly done: number; readonly total: number } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const audio = useRef<HTMLAudioElement | null>(null);
  const abort = useRef(new AbortController());

  useEffect(() => {
    const { current } = abort;
    return () => {
      current.abort();
      audio.current?.pause();
    };
  }, []);

  const stop = () => {
    audio.current?.pause();
    setHeard(null);
  };
  const hear = async (prompt: string) => {
    stop();
    setProblem(null);
    setHeard(prompt);
    try {
      const url = URL.createObjectURL(await speak(prompt, manner, abort.current.signal));
      const element = new Audio(url);
      audio.current = element;
      element.onended = () => setHeard((now) => (now === prompt ? null : now));
      await element.play();
    } catch (error) {
      if (abort.current.signal.aborted) return;
      setHeard(null);
      setProblem(messageOf(error));
    }
  };
  /** Keeps all prompts on the shelf; one that cannot be spoken is named and does not stop the rest. */
  const keep = async (prompts: readonly string[]) => {
    stop();
    setProblem(null);
    const kept: SourceView[] = [];
    const refused: string[] = [];
    for (const [done, prompt] of prompts.entries()) {
      setMade({ done, total: prompts.length });
      try {
        kept.push(await keepSpoken(prompt, manner, abort.current.signal));
      } catch (error) {
        if (abort.current.signal.aborted) return { kept: [], isWhole: false };
        refused.push(messageOf(error));
      }
    }
    setMade(null);
    if (refused.length) setProblem(refused.join(' '));
    return { kept, isWhole: refused.length === 0 };
  };
  return { heard, hear, stop, made, keep, problem };
}
