// Contrast of every visible text with the ground behind it, by WCAG's formula.
() => {
  const canvas = document.createElement('canvas').getContext('2d', {willReadFrequently: true});
  const rgb = (colour) => {
    canvas.clearRect(0, 0, 1, 1); canvas.fillStyle = colour; canvas.fillRect(0, 0, 1, 1);
    return canvas.getImageData(0, 0, 1, 1).data;
  };
  const light = ([r, g, b]) => {
    const [x, y, z] = [r, g, b].map((v) => (v / 255 <= 0.03928 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4));
    return 0.2126 * x + 0.7152 * y + 0.0722 * z;
  };
  const ground = (element) => {
    for (let e = element; e; e = e.parentElement) {
      const colour = rgb(getComputedStyle(e).backgroundColor);
      if (colour[3] > 250) return colour;
    }
    return rgb(getComputedStyle(document.body).backgroundColor);
  };
  const found = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const element = walker.currentNode.parentElement;
    if (!walker.currentNode.data.trim() || element.closest('svg, button:disabled, .moved, option')) continue;
    if (!element.getClientRects().length) continue;
    const [a, b] = [light(rgb(getComputedStyle(element).color)), light(ground(element))];
    found.push([walker.currentNode.data.trim().slice(0, 40), Math.round(100 * (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05)) / 100]);
  }
  return found;
}
