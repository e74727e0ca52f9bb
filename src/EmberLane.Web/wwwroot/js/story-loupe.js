// Ends at an open seam are dragged on the sound: a grip on the cut of each side goes along with the pointer; with Shift both ends go.

// `move` is given the name of the ends that go and by how many milliseconds, once the grip is let go.
export function grips(move) {
  let held = null;
  const unitsAt = ({ svg, clientX }) => {
    const box = svg.getBoundingClientRect();
    return ((clientX - box.left) * svg.viewBox.baseVal.width) / box.width;
  };
  const show = (units) => {
    const { grip, perUnit } = held;
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
  document.addEventListener("pointermove", (event) => held && show(moved(event)));
  document.addEventListener("pointerup", (event) => {
    if (!held) {
      return;
    }
    const { grip, perUnit } = held,
      by = Math.round(moved(event) * perUnit);
    grip.classList.remove("held");
    if (by !== 0) {
      move(event.shiftKey ? "stop-later" : grip.dataset.move, by);
    } else {
      show(0);
    }
    held = null;
  });
  // Where the drag is broken off, the end stays where it is.
  const letGo = () => {
    if (held) {
      show(0);
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
