// Sets the theme before the first paint: the stored choice, otherwise the system's.
(() => {
  const stored = localStorage.getItem('tambur.theme');
  const dark = stored ? stored === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.classList.toggle('dark', dark);
})();
