// Ends at an open seam are dragged on the sound: a grip on the cut of each side goes along with the pointer; with Shift both ends go.

// `move` is given the name of the ends that go and by how many milliseconds, once the grip is let go.
export function grips(move) {
  let held = null;
  const unitsAt = ({ svg, clientX }) => {
    const box = svg.getBoundingClientRect();
    return ((clientX - box.left) * svg.viewBox.baseVal.width) / box.width;
  };
  const show = ({ grip, perUnit }, units) => {
    grip.setAttribute("transform", `translate(${units})`);
    const by = Math.round(units * perUnit);
    grip.querySelector("text").textContent = by === 0 ? "" : `${by > 0 ? "+" : "−"}${Math.abs(by)} ms`;
  };
  const moved = (event) => unitsAt({ svg: held.svg, clientX: event.clientX }) - held.from;

  document.addEventListener("pointerdown", (event) => {
    const grip = event.target.closest?.(".loupe-grip");
    if (!grip || event.button !== 0) {
      return;
    }
    event.preventDefault();
    const svg = grip.ownerSVGElement;
    held = {
      grip,
      svg,
      from: unitsAt({ svg, clientX: event.clientX }),
      perUnit: Number(svg.dataset.milliseconds) / svg.viewBox.baseVal.width,
    };
    grip.setPointerCapture(event.pointerId);
    grip.classList.add("held");
  });
  document.addEventListener("pointermove", (event) => held && show(held, moved(event)));
  document.addEventListener("pointerup", (event) => {
    if (!held) {
      return;
    }
    const own = held,
      { grip, perUnit } = own,
      by = Math.round(moved(event) * perUnit);
    grip.classList.remove("held");
    held = null;
    // The answer draws it where the end lies then; where none comes, the end stays where it is.
    Promise.resolve(by === 0 ? null : move(event.shiftKey ? "stop-later" : grip.dataset.move, by)).finally(() => show(own, 0));
  });
  // Where the drag is broken off, the end stays where it is.
  const letGo = () => {
    if (held) {
      show(held, 0);
      held.grip.classList.remove("held");
      held = null;
    }
  };
  document.addEventListener("pointercancel", letGo);
  document.addEventListener(
    "keydown",
    (event) => {
      if (held && event.key === "Escape") {
        letGo();
        event.stopPropagation();
      }
    },
    true,
  );
}
