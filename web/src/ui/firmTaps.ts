/** What a tap can land on. */
const controls =
  "button, a[href], input, select, textarea, label, summary, " +
  "[role=button], [role=combobox], [role=option], [role=menuitem], [role=tab]";

const controlOf = (target: EventTarget | null) =>
  target instanceof Element ? target.closest<HTMLElement>(controls) : null;

/** How far a finger may slide, px, and it is still a tap. */
const slip = 12;

/**
 * A tap goes to what lay under the finger when it came down. A page may move between finger down and finger up, as when
 * an answer comes in: without this the tap lands beside its button and is lost, or on the next button and does harm.
 * What was meant and has gone meanwhile gets nothing, and neither does what came in its place.
 */
export function firmTaps(on: Document = document): () => void {
  let down: { control: HTMLElement | null; x: number; y: number } | undefined;
  const forget = () => (down = undefined);
  const press = (e: PointerEvent) => {
    down = e.isPrimary && e.button === 0 ? { control: controlOf(e.target), x: e.clientX, y: e.clientY } : undefined;
  };
  const click = (e: MouseEvent) => {
    const was = down;
    forget();
    if (!was || Math.hypot(e.clientX - was.x, e.clientY - was.y) > slip) return;
    const now = controlOf(e.target);
    if (now === was.control) return;
    if (was.control?.contains(now) || (was.control && now?.contains(was.control))) return; // a label and its input
    e.preventDefault();
    e.stopPropagation();
    if (was.control?.isConnected) was.control.click();
  };
  const listeners: [string, (e: never) => void][] = [
    ["pointerdown", press],
    ["pointercancel", forget],
    ["keydown", forget], // a key's click is no tap
    ["click", click],
  ];
  for (const [name, listener] of listeners) on.addEventListener(name, listener as EventListener, true);
  return () => {
    for (const [name, listener] of listeners) on.removeEventListener(name, listener as EventListener, true);
  };
}
