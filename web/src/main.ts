import './app/style.css';
import './app/library.css';
import { PiniaColada } from '@pinia/colada';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './app/App.vue';
import { registerWorker } from './device/useNewVersion';

import { router } from './app/router';
import { useTheme } from './parts/theme';

const app = createApp(App);
app.use(createPinia());
app.use(PiniaColada, { queryOptions: { staleTime: 0, gcTime: 60_000 } });
useTheme();
app.use(router);
app.mount('#app');

if (import.meta.env.PROD && 'serviceWorker' in navigator) void registerWorker();
