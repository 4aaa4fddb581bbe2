import { messageOf } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import type { Manner } from '@tambur/speech';
import { useCallback, useEffect, useRef, useState } from 'react';
import { keepSpoken, speak } from './speech-client.ts';

/** Speaks prompts in one manner: to be heard, or to be kept. One problem at a time is told; all ends with the view. */
export function useSpeaking(manner: Manner) {
  const [heard, setHeard] = useState<string | null>(null);
  const [made, setMade] = useState<{ readonly done: number; readonly total: number } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const sound = useRef<{ readonly audio: HTMLAudioElement; readonly url: string } | null>(null);
  /** Counts what was asked to be heard: what comes after another was asked for is not played. */
  const turn = useRef(0);
  const abort = useRef(new AbortController());

  const silence = useCallback(() => {
    turn.current++;
    sound.current?.audio.pause();
    if (sound.current) URL.revokeObjectURL(sound.current.url);
    sound.current = null;
  }, []);
  useEffect(() => {
    const { current } = abort;
    return () => {
      current.abort();
      silence();
    };
  }, [silence]);

  const stop = () => {
    silence();
    setHeard(null);
  };
  const hear = async (prompt: string) => {
    silence();
    const mine = turn.current;
    setProblem(null);
    setHeard(prompt);
    try {
      const file = await speak(prompt, manner, abort.current.signal);
      if (mine !== turn.current) return;
      const url = URL.createObjectURL(file);
      const audio = new Audio(url);
      sound.current = { audio, url };
      audio.onended = stop;
      await audio.play();
    } catch (error) {
      if (mine !== turn.current) return;
      stop();
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
