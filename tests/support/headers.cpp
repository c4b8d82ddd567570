// Nothing but the headers that tests share, which are compiled with it.
