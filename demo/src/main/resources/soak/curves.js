const WIDTH = 360;
const HEIGHT = 180;
const MOST_MS = 1400;
const x = (users) => 30 + (users / 400) * (WIDTH - 60);
const y = (ms) => HEIGHT - 24 - (Math.min(ms, MOST_MS) / MOST_MS) * (HEIGHT - 44);

for (const scenario of new Set(samples.map((s) => s.scenario))) {
  const own = samples.filter((s) => s.scenario === scenario);
  const figure = document.createElement('figure');
  figure.innerHTML = `<figcaption>${scenario}</figcaption>
    <svg viewBox="0 0 ${WIDTH} ${HEIGHT}" role="img" aria-label="${scenario}">
      <line x1="30" x2="${WIDTH - 30}" y1="${y(900)}" y2="${y(900)}" />
      <polyline points="${own.map((s) => `${x(s.users)},${y(s.ms)}`).join(' ')}" />
      ${own
        .map(
          (s) => `<circle class="${s.ms > 900 ? 'slow' : ''}" cx="${x(s.users)}" cy="${y(s.ms)}" r="4">
            <title>${s.users} people: ${s.ms} ms</title></circle>
            <text x="${x(s.users)}" y="${HEIGHT - 6}" text-anchor="middle">${s.users}</text>`,
        )
        .join('')}
    </svg>`;
  document.getElementById('curves').append(figure);
}
