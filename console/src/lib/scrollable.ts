/**
 * A box that scrolls is reached by the keyboard as long as it has more than it shows, and says what it holds: its
 * `data-scrolls`.
 */
export function scrollable(box: HTMLElement): { destroy: () => void } {
  const look = (): void => {
    const hasMore = box.scrollHeight > box.clientHeight + 1 || box.scrollWidth > box.clientWidth + 1;
    if (!hasMore) {
      for (const attribute of ["tabindex", "aria-label", ...(isBox ? ["role"] : [])]) box.removeAttribute(attribute);
      return;
    }
    box.tabIndex = 0;
    box.setAttribute("aria-label", box.dataset.scrolls ?? "");
    if (isBox) box.setAttribute("role", "region");
  };
  // A list stays one.
  const isBox = box.tagName === "DIV";
  const sizes = new ResizeObserver(look);
  const contents = new MutationObserver(look);
  sizes.observe(box);
  contents.observe(box, { childList: true, subtree: true, characterData: true, attributeFilter: ["data-scrolls"] });
  look();
  return {
    destroy: () => {
      sizes.disconnect();
      contents.disconnect();
    },
  };
}
