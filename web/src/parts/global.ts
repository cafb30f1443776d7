import { createGlobalStyle } from "styled-components";

export const GlobalStyle = createGlobalStyle`
  *, *::before, *::after { box-sizing: border-box; }
  html, body, #root { height: 100%; }
  body {
    margin: 0;
    background: ${(p) => p.theme.paper};
    color: ${(p) => p.theme.ink};
    font: 400 ${(p) => p.theme.work}/1.3 ${(p) => p.theme.text};
    -webkit-text-size-adjust: 100%;
    overflow-wrap: break-word;
  }
  h1, h2, h3, p, ul, ol, dl, dd, figure { margin: 0; padding: 0; }
  ul, ol { list-style: none; }
  strong, b { font-weight: 700; }
  :focus { outline: none; }
  :focus-visible { outline: 0.1875rem solid ${(p) => p.theme.ink}; outline-offset: 0.125rem; }
  /* A heading takes the focus for those who hear it or work by keys; who touches sees no frame. */
  h1:focus-visible { outline: none; }
  html[data-keys] h1:focus-visible { outline: 0.1875rem solid ${(p) => p.theme.ink}; }
  html { color-scheme: ${(p) => (p.theme.name === "torch" ? "dark" : "light")}; }
  /* A4 or Letter, whichever is in the printer. */
  @page { margin: 14mm; }
  /* Only the sheet is printed: black on white, on its own page. */
  @media print {
    body, #root { height: auto; background: none; color: #000; }
    header, footer, nav, main { display: none !important; }
    aside { overflow: visible !important; border: 0 !important; background: none !important; color: #000 !important; }
    aside > footer { display: block !important; }
    #root > div { display: block !important; height: auto !important; }
  }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
`;
