import { mount } from 'svelte';
import App from './App.svelte';
import './state/theme.svelte';
import './styles/app.css';

mount(App, { target: document.getElementById('app')! });
