// Runs before anything is painted, so that a chosen theme does not flash.
try {
    const chosen = localStorage.getItem('fasti:theme');
    if (chosen === 'light' || chosen === 'dark') {
        document.documentElement.dataset.theme = chosen;
    }
} catch {
    // Without storage the system decides.
}
