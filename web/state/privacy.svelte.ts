/** While the screen is shared: what is sensitive stays covered, and what was uncovered is covered again. */
class Privacy {
  on = $state(sessionStorage.getItem('privacy') === '1');

  toggle(): void {
    this.on = !this.on;
    sessionStorage.setItem('privacy', this.on ? '1' : '0');
  }
}

export const privacy = new Privacy();
