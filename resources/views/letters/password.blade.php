Hello {!! $person->name !!},

somebody asked for a new password for your account in Ylema, most likely you.
Choose it here; the link works once, and ends {{ $way->ends }}:

{!! $way->address !!}

If it was not you, you need not do anything: your password stays as it is.
