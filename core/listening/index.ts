export { type Conclusion, heardFrom, type ListeningReport, listen, MOST_SECONDS } from './listen.ts';
