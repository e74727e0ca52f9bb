// News of what others and background work changed: fragments that show some of it are drawn anew, without getting in a person's way.

// What has changed in this production, in one word each: whoever shows some of it asks for itself again.
const kinds = ["work", "gather", "words", "bites", "story", "cameras", "production", "comments", "here"];
const { production } = document.body.dataset;
export const events = new EventSource(
  production ? `/events?production=${production}&at=${encodeURIComponent(location.pathname)}` : "/events",
);
const ask = (some) => some.forEach((kind) => document.body.dispatchEvent(new CustomEvent(kind)));
// Once more when all is quiet: news that comes while a fragment is being fetched would be lost with the fragment that it replaces.
let quiet, soon;
const heard = new Set(),
  again = new Set();
const whenQuiet = () => {
  if (document.querySelector(".htmx-request")) {
    quiet = setTimeout(whenQuiet, 100);
  } else {
    const some = [...again];
    again.clear();
    ask(some);
  }
};
// A moment later: several news are one then, and the answer to what a person just did is shown first.
const tell = (...some) => {
  some.forEach((kind) => heard.add(kind));
  clearTimeout(quiet);
  soon ??= setTimeout(() => {
    soon = undefined;
    const now = [...heard];
    heard.clear();
    now.forEach((kind) => again.add(kind));
    ask(now);
    quiet = setTimeout(whenQuiet, 300);
  }, 150);
};
kinds.forEach((kind) => events.addEventListener(kind, () => tell(kind)));
// What was under way when the page was made may have ended before this line was open.
events.addEventListener("open", () => document.querySelector(".job-running, .job-waiting") && tell("work"));
window.addEventListener("pagehide", () => events.close());

// News goes behind what a person is doing; what it would have shown is asked for once that is done.
let owed = false;
const isNews = ({ requestConfig }) => kinds.includes(requestConfig.triggeringEvent?.type);
const settle = () => {
  if (owed) {
    owed = false;
    setTimeout(tell, 50, ...kinds);
  }
};

// A field that is typed in is not replaced.
document.addEventListener("htmx:beforeRequest", (event) => {
  const field = document.activeElement;
  if (isNews(event.detail) && event.detail.elt.contains(field) && field.matches("input:not([type=checkbox]), textarea, select")) {
    owed = true;
    event.preventDefault();
  }
});
document.addEventListener("focusout", settle);

// A form that somebody has begun to fill is not replaced: what was ticked, unticked or typed would be gone.
const isBegun = (field) =>
  field.type === "checkbox" || field.type === "radio"
    ? field.checked !== field.defaultChecked
    : field.type !== "hidden" && field.value !== field.defaultValue;
const holdsBegun = (fragment) => [...fragment.querySelectorAll("form input, form textarea")].some(isBegun);
document.addEventListener("htmx:beforeRequest", (event) => {
  if (isNews(event.detail) && holdsBegun(event.detail.elt)) {
    event.preventDefault();
  }
});
// It may have been begun while the news was under way.
document.addEventListener("htmx:beforeSwap", ({ detail }) => {
  if (isNews(detail) && holdsBegun(detail.target)) {
    detail.shouldSwap = false;
  }
});

// A control is not replaced under a pointer that moves over it or has just come to rest on it.
let under = null,
  moved = 0;
document.addEventListener(
  "pointermove",
  ({ target }) => {
    under = target.closest?.("a, button, summary, input, select, label") ?? null;
    moved = Date.now();
  },
  { passive: true },
);
document.addEventListener("htmx:beforeSwap", ({ detail }) => {
  if (isNews(detail) && under?.isConnected && detail.target.contains(under) && Date.now() - moved < 1500) {
    detail.shouldSwap = false;
    owed = true;
    setTimeout(settle, 1600);
  }
});

// While the answer to a person's own request is under way, its fragment is not replaced: the answer would come to nothing, or older news
// would cover it.
const asked = new Map(),
  fetching = new Map();
const meet = (one, other) => one.contains(other) || other.contains(one);
document.addEventListener("htmx:beforeRequest", (event) => {
  const { xhr, target } = event.detail;
  if (!isNews(event.detail)) {
    asked.set(xhr, target);
    [...fetching]
      .filter(([, other]) => meet(other, target))
      .forEach(([older]) => {
        owed = true;
        older.abort();
      });
  } else if ([...asked.values()].some((other) => meet(other, target))) {
    owed = true;
    event.preventDefault();
  } else if (!event.defaultPrevented) {
    fetching.set(xhr, target);
  }
});
document.addEventListener("htmx:afterRequest", ({ detail }) => {
  fetching.delete(detail.xhr);
  if (asked.delete(detail.xhr)) {
    settle();
  }
});

// A button that is replaced while it is pressed would not be clicked.
let pressed = null;
document.addEventListener(
  "pointerdown",
  ({ target }) => {
    pressed = target;
  },
  true,
);
["pointerup", "pointercancel"].forEach((end) =>
  document.addEventListener(
    end,
    () =>
      setTimeout(() => {
        pressed = null;
        settle();
      }),
    true,
  ),
);
document.addEventListener("htmx:beforeSwap", ({ detail }) => {
  if (pressed && isNews(detail) && detail.target.contains(pressed)) {
    owed = true;
    detail.shouldSwap = false;
  }
});

// News that says the same as the news before it replaces nothing, so that a picture goes on playing.
const told = new Map();
document.addEventListener("htmx:beforeSwap", ({ detail }) => {
  if (!isNews(detail)) {
    told.clear();
  } else if (detail.shouldSwap && detail.target.id) {
    detail.shouldSwap = told.get(detail.target.id) !== detail.serverResponse;
    told.set(detail.target.id, detail.serverResponse);
  }
});

// The keyboard stays on the link or button that it was on, of those that say the same on the same one.
const reached = "a[href], button, summary, input";
const says = (element) =>
  [
    element.tagName,
    element.id,
    element.name,
    element.getAttribute("href") ?? element.form?.getAttribute("action"),
    element.textContent.trim(),
  ].join("\n");
const alike = (fragment, said) => [...fragment.querySelectorAll(reached)].filter((element) => says(element) === said);
let kept = null;
document.addEventListener("htmx:beforeSwap", ({ detail }) => {
  const at = document.activeElement,
    { target } = detail;
  // What a person was told stays until the next answer.
  kept =
    isNews(detail) && detail.shouldSwap
      ? {
          fragment: target.id,
          line: target.querySelector(":scope > .alert-line"),
          ...(target.contains(at) && at.matches(reached) ? { said: says(at), nth: alike(target, says(at)).indexOf(at) } : {}),
        }
      : null;
});
document.addEventListener("htmx:afterSwap", () => {
  const { fragment: id, line, said, nth } = kept ?? {},
    fragment = id && document.getElementById(id);
  kept = null;
  if (!fragment) {
    return;
  }
  if (line) {
    fragment.prepend(line);
  }
  const again = said && alike(fragment, said)[nth];
  if (again && document.activeElement !== again) {
    again.focus({ preventScroll: true });
  }
});

// A fragment that is drawn anew by background news keeps open what a person opened in it.
const opened = new Set();
document.addEventListener(
  "toggle",
  ({ target }) => {
    if (target.matches?.("details[id]") && target.isConnected) {
      opened[target.open ? "add" : "delete"](target.id);
    }
  },
  true,
);
document.addEventListener("htmx:afterSwap", () => opened.forEach((id) => document.getElementById(id)?.setAttribute("open", "")));
