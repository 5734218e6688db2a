import base from './playwright.config';
export default { ...base, webServer: undefined, use: { ...base.use, baseURL: 'http://127.0.0.1:8130', screenshot: 'only-on-failure' }, outputDir: '/tmp/pwres', retries: 0, workers: 1 };
