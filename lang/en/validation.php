<?php

declare(strict_types=1);

// Each sentence stands beside the field that it is about, so none names it.
return [
    'accepted' => 'Tick this to go on.',
    'array' => 'This must be a list.',
    'between' => [
        'numeric' => 'Give a number from :min to :max.',
        'string' => 'Give :min to :max characters.',
        'array' => 'Give :min to :max of these.',
        'file' => 'The file must have :min to :max KB.',
    ],
    'boolean' => 'This must be yes or no.',
    'date' => 'This is not a date. Write it like 14 Mar 2024 or 2024-03-14.',
    'date_format' => 'This is not a date. Write it like 2024-03-14.',
    'after' => 'This must be later than :date.',
    'after_or_equal' => 'This must not be earlier than :date.',
    'before' => 'This must be earlier than :date.',
    'distinct' => 'This appears twice.',
    'email' => 'This is not an e-mail address.',
    'enum' => 'Choose one of the values offered.',
    'exists' => '“:input” does not exist.',
    'file' => 'Choose a file.',
    'filled' => 'Fill this in.',
    'in' => 'Choose one of the values offered.',
    'integer' => 'Give a whole number.',
    'max' => [
        'numeric' => 'Give :max at most.',
        'string' => 'Use :max characters at most.',
        'array' => 'Give :max of these at most.',
        'file' => 'The file may have :max KB at most.',
    ],
    'min' => [
        'numeric' => 'Give :min at least.',
        'string' => 'Use :min characters at least.',
        'array' => 'Give :min of these at least.',
        'file' => 'The file must have :min KB at least.',
    ],
    'not_in' => 'Choose another value.',
    'numeric' => 'Give a number.',
    'present' => 'This is missing.',
    'prohibited' => 'This cannot be given here.',
    'regex' => 'This is not written as it must be.',
    'required' => 'Fill this in.',
    'required_if' => 'Fill this in.',
    'required_unless' => 'Fill this in.',
    'required_with' => 'Fill this in.',
    'required_without' => 'Fill this in.',
    'size' => [
        'numeric' => 'Give :size.',
        'string' => 'Use :size characters.',
        'array' => 'Give :size of these.',
        'file' => 'The file must have :size KB.',
    ],
    'string' => 'This must be a text.',
    'unique' => 'This is already in use. Choose another.',
    'uploaded' => 'The file did not arrive whole. Try again; smaller files may do.',
    'uuid' => 'This is not written as it must be.',

    'custom' => [
        'people.*.sign_in' => ['exists' => 'There is nobody with the sign-in name “:input”.'],
        'password' => ['min' => 'Use at least :min characters.'],
        'to' => ['required' => 'Give an address.', 'required_if' => 'Give an address.'],
        'subject' => ['required' => 'Give a subject.', 'required_if' => 'Give a subject.'],
    ],
];
