// Light and dark, kept in a cookie so that a page comes as it was left.
document.addEventListener("click", ({ target }) => {
  const button = target.closest('[data-action="theme"]');
  if (button) {
    const night = document.documentElement.dataset.bsTheme !== "dark";
    document.documentElement.dataset.bsTheme = night ? "dark" : "light";
    document.cookie = `theme=${night ? "night" : "paper"}; path=/; max-age=31536000; samesite=lax`;
    button.textContent = night ? "Day" : "Night";
  }
});
