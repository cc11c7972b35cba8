Hello {!! $person->name !!},

you are invited to Ylema, which looks after the pictures and files of a website.
Your role there: {{ $person->role->value }}.

Choose your password here; the link works once, and ends {{ $way->ends }}:

{!! $way->address !!}

If you do not know why you got this letter, you need not do anything.
