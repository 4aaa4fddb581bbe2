/** Days and times as Tambur writes them everywhere, whatever the browser's language: "26 Nov 2026", "26 Nov 2026, 19:53". */
const day = { day: 'numeric', month: 'short', year: 'numeric' } as const;
const days = new Intl.DateTimeFormat('en-GB', day);
const moments = new Intl.DateTimeFormat('en-GB', { ...day, hour: '2-digit', minute: '2-digit' });

export const formatDay = (date: string | Date): string => days.format(new Date(date));
export const formatMoment = (date: string | Date): string => moments.format(new Date(date));
