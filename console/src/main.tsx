import '@fontsource-variable/fraunces/index.css';
import '@fontsource-variable/source-sans-3/index.css';
import '@fontsource-variable/jetbrains-mono/index.css';
import './app/app.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app/App';
import { applyTheme, storedTheme } from './shared/lib/theme';

applyTheme(storedTheme());
const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
}
