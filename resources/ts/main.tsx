document.getElementById('app')!.textContent = 'Ylema';
