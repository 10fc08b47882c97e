// What a screen measures: fingers' targets, and lettering of drawings against their frames and each other. Returns complaints.
() => {
  const told = [];
  const seen = (e) => {
    const r = e.getBoundingClientRect(), s = getComputedStyle(e);
    return r.width > 1 && r.height > 1 && s.visibility !== "hidden" && s.opacity !== "0" && !e.closest("[inert], .sr-only");
  };
  const name = (e) => (e.getAttribute("aria-label") || e.textContent || e.id || e.tagName).trim().replace(/\s+/g, " ").slice(0, 40);
  if (innerWidth < 500)
    // A word in its line is as high as the line (WCAG 2.5.8, inline targets); its bench has a row of them, which is measured.
    for (const e of document.querySelectorAll("button:not(.word), select, summary, input:not([type=radio]):not([type=checkbox]):not([type=file]):not(.sr-only), [role=switch], a.btn, nav a, label.btn")) {
      if (!seen(e) || e.closest("svg")) continue;
      const r = e.getBoundingClientRect();
      if (Math.round(r.height) < 44 || Math.round(r.width) < 24) told.push(`target ${Math.round(r.width)}x${Math.round(r.height)}: ${name(e)}`);
    }
  for (const svg of document.querySelectorAll("main svg")) {
    if (!seen(svg) || svg.getBoundingClientRect().width < 120) continue;
    const frame = svg.getBoundingClientRect();
    const scrolled = svg.parentElement.closest("[class*=overflow]") && svg.parentElement.scrollWidth > svg.parentElement.clientWidth + 1;
    const texts = [...svg.querySelectorAll("text")].filter((t) => t.textContent.trim() && seen(t) && !t.closest("[aria-hidden=true] [data-loose]"));
    // A halo of the sheet's colour round letters lies over lines only: the letters themselves count.
    const bare = (t) => {
      const r = t.getBoundingClientRect(), s = getComputedStyle(t);
      const halo = s.paintOrder.startsWith("stroke") && s.stroke !== "none" ? parseFloat(s.strokeWidth) / 2 : 0;
      return { left: r.left + halo, right: r.right - halo, top: r.top + halo, bottom: r.bottom - halo };
    };
    const boxes = texts.map((t) => ({ t, r: bare(t) }));
    const what = svg.getAttribute("aria-label")?.slice(0, 40) ?? "drawing";
    for (const { t, r } of boxes) {
      const size = parseFloat(getComputedStyle(t).fontSize) * (frame.width / (svg.viewBox.baseVal?.width || frame.width));
      if (size < 11.4) told.push(`small ${size.toFixed(1)} px: "${name(t)}" in ${what}`);
      if (!scrolled && (r.left < frame.left - 1.5 || r.right > frame.right + 1.5 || r.top < frame.top - 1.5 || r.bottom > frame.bottom + 1.5)) told.push(`over the frame: "${name(t)}" in ${what}`);
    }
    for (let i = 0; i < boxes.length; i++)
      for (let j = i + 1; j < boxes.length; j++) {
        const a = boxes[i].r, b = boxes[j].r;
        if (boxes[i].t.closest("[transform*=rotate]") || boxes[j].t.closest("[transform*=rotate]")) continue;
        const w = Math.min(a.right, b.right) - Math.max(a.left, b.left), h = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
        if (w > 2 && h > 4) told.push(`over each other: "${name(boxes[i].t)}" and "${name(boxes[j].t)}" in ${what}`);
      }
  }
  return [...new Set(told)];
}
