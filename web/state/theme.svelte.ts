/** Light or dark: as the machine says, until the person says otherwise. */
class Theme {
  choice = $state<'auto' | 'light' | 'dark'>((localStorage.getItem('theme') as 'light' | 'dark' | null) ?? 'auto');

  constructor() {
    this.#apply();
  }

  next(): void {
    this.choose(this.choice === 'auto' ? 'light' : this.choice === 'light' ? 'dark' : 'auto');
  }

  choose(choice: 'auto' | 'light' | 'dark'): void {
    this.choice = choice;
    if (this.choice === 'auto') localStorage.removeItem('theme');
    else localStorage.setItem('theme', this.choice);
    this.#apply();
  }

  #apply(): void {
    document.documentElement.dataset.theme = this.choice;
  }
}

export const theme = new Theme();
