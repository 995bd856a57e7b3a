package org.vinecellar.service.reports;

/**
 * How the page of a report looks: the colours and shapes of the console, on screen and on paper.
 */
final class ReportStyle {
  private ReportStyle() {}

  static final String CSS =
      """
      :root { color-scheme: light; --ground: #faf8f3; --ink: #26222a; --quiet: #67616a; --rule: #ddd6ca;
        --claret: #7b1e3a; --passed: #1d7a78; --failed: #8e1f3f; --errored: #b4531a; --slate: #66737f; }
      @media screen and (prefers-color-scheme: dark) {
        :root { color-scheme: dark; --ground: #12161f; --ink: #e9e4da; --quiet: #a5a1a6; --rule: #323a49;
          --claret: #e08aa3; --passed: #4fb3ae; --failed: #e0708f; --errored: #e59a5c; --slate: #94a3b1; } }
      * { box-sizing: border-box; }
      body { margin: 0 auto; max-width: 78rem; padding: 2.5rem 2rem 3rem; background: var(--ground);
        color: var(--ink); font: 15px/1.45 system-ui, "Segoe UI", "Noto Sans", sans-serif; }
      h1, h2 { font-family: Georgia, "Noto Serif", serif; font-weight: 400; line-height: 1.2; margin: 0; }
      h1 { font-size: 2.1rem; } h2 { font-size: 1.35rem; margin-bottom: .6rem; }
      p { margin: .3rem 0; } .of, .note, footer { color: var(--quiet); } .note { font-size: 14px; }
      code { font: 13px/1.4 ui-monospace, "Noto Sans Mono", monospace; overflow-wrap: anywhere; }
      a { color: inherit; text-decoration-color: var(--rule); text-underline-offset: 3px; }
      a:hover { text-decoration-color: var(--claret); color: var(--claret); }
      a:focus-visible, .wide:focus-visible { outline: 2px solid var(--claret); outline-offset: 2px; }
      nav ul, .legend { display: flex; flex-wrap: wrap; gap: .3rem 1.4rem; list-style: none; padding: 0; margin: .9rem 0 0; }
      section { margin-top: 2.4rem; }
      .wide { overflow-x: auto; border-top: 1px solid var(--rule); border-bottom: 1px solid var(--rule); }
      table { border-collapse: separate; border-spacing: 0; width: 100%; font-size: 13px; }
      .blocks { display: grid; grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr)); gap: 1.2rem 2.5rem;
        align-items: start; } .turned thead .n { white-space: nowrap; } .turned tbody th { min-width: 0; }
      th, td { padding: .34rem .36rem; text-align: left; vertical-align: top; font-weight: 400; }
      th:first-child, td:first-child { padding-left: 0; }
      thead th { color: var(--quiet); vertical-align: bottom; border-bottom: 1px solid var(--rule); }
      tbody tr + tr > * { border-top: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
      tbody th { min-width: 10rem; max-width: 19rem; overflow-wrap: break-word; position: sticky; left: 0;
        background: var(--ground); }
      td { max-width: 15rem; overflow-wrap: break-word; }
      .n { text-align: right; font-variant-numeric: tabular-nums; white-space: nowrap; overflow-wrap: normal; }
      thead .n { white-space: normal; min-width: 3rem; }
      details { margin-top: .6rem; } summary { cursor: pointer; color: var(--quiet); }
      .glyph { width: .75rem; height: .75rem; margin-right: .45rem; vertical-align: -1px; overflow: visible; }
      .legend { margin: 0 0 .5rem; font-size: 14px; }
      .passed { fill: var(--passed); } .failed { fill: var(--failed); } .errored { fill: var(--errored); }
      .skipped, .not-reached { fill: var(--slate); }
      .ring { fill: none; stroke: var(--slate); stroke-width: 1.6; } .dash { stroke-dasharray: 2.2 1.6; }
      .chart { width: 100%; height: auto; display: block; }
      .chart text { fill: var(--quiet); font-size: 12px; } .chart text.n { text-anchor: end; }
      .rule { stroke: var(--rule); fill: none; } .light { stroke: var(--ground); stroke-width: 1.5; fill: none; }
      .dot { fill: var(--ground); }
      .chart rect.failed { fill: url(#p-failed); } .chart rect.errored { fill: url(#p-errored); }
      .chart rect.skipped { fill: url(#p-skipped); } .chart rect.not-reached { fill: url(#p-not-reached); }
      .chart a:focus-visible rect { stroke: var(--ink); stroke-width: 2; }
      footer { margin-top: 3rem; font-size: 13px; }
      @media print {
        @page { size: A4 landscape; margin: 14mm 12mm; }
        body { padding: 0; max-width: none; font-size: 10pt; background: none; }
        table { font-size: 8.5pt; } th, td { padding: .2rem .4rem; } .wide { overflow: visible; } tbody th { position: static; min-width: 0; background: none; }
        thead { display: table-header-group; } tr, .chart { break-inside: avoid; } h2 { break-after: avoid; }
        nav, details > summary { display: none; } a { text-decoration: none; }
      }
      """;
}
