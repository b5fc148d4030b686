export const menu = () => ({ shut() { this.$el.closest('details').open = false; } });

export const theme = () => ({
    init() { this.mark(); },
    mark() {
        const chosen = document.documentElement.dataset.theme ?? 'auto';
        this.$root.querySelectorAll('[data-theme-choice]').forEach((button) => {
            button.setAttribute('aria-pressed', String(button.dataset.themeChoice === chosen));
        });
    },
    choose(event) {
        const choice = event.target.dataset.themeChoice;
        if (choice === 'auto') {
            delete document.documentElement.dataset.theme;
            localStorage.removeItem('fasti:theme');
        } else {
            document.documentElement.dataset.theme = choice;
            localStorage.setItem('fasti:theme', choice);
        }
        this.mark();
    },
});
