/** What to follow of a source that has changed: the button says how much. */
export const drift = () => ({
    label: 'Follow all of it',
    init() { this.count(); this.$root.addEventListener('change', () => this.count()); },
    choices() { return [...this.$root.querySelectorAll('select[name^="item"]')]; },
    count() {
        const all = this.choices();
        const left = all.filter((choice) => choice.value === 'no').length;
        if (left === 0) {
            this.label = 'Follow all of it';
        } else {
            this.label = left === all.length ? 'Leave all for later' : `Follow ${all.length - left} of ${all.length}`;
        }
    },
    later() { this.choices().forEach((choice) => { choice.value = 'no'; }); this.count(); },
});
