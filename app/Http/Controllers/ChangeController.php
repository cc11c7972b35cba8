<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Changes\Journal;
use App\Changes\Verification;
use App\Models\Change;
use App\Models\ChangeWrite;
use App\Models\Site;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

final class ChangeController
{
    public function index(Request $request, Site $site): JsonResponse
    {
        $request->validate(['before' => ['nullable', 'integer']]);
        $changes = $site->changes()->with(['author', 'undoer'])->when($request->filled('before'), fn ($q) => $q->where('id', '<', $request->integer('before')))->orderByDesc('id')->limit(100)->get();

        return new JsonResponse(['changes' => $changes->map(self::row(...))->all()]);
    }

    public function show(Site $site, Change $change): JsonResponse
    {
        $change->load(['author', 'undoer']);

        return new JsonResponse([
            ...self::row($change), 'verification' => $change->verification, 'plan_id' => $change->plan_id,
            'writes' => $change->writes()->orderBy('position')->get()->map(static fn (ChangeWrite $w): array => [
                'id' => $w->id, 'target' => $w->target, 'kind' => $w->record_kind, 'key' => $w->record_key, 'title' => $w->title,
                'new' => $w->before_hash === null, 'detail' => (object) $w->detail, 'state' => $w->state, 'message' => $w->message,
            ])->all(),
        ]);
    }

    public function undo(Request $request, Site $site, Change $change, Journal $journal): JsonResponse
    {
        $user = $request->user();
        $change = $journal->undo($change, $user instanceof User ? $user : null);

        return new JsonResponse(['change' => $change->id], 202);
    }

    public function verify(Site $site, Change $change, Verification $verification): JsonResponse
    {
        $verification->look($change);

        return new JsonResponse(['verification' => $change->refresh()->verification]);
    }

    public function purge(Site $site, Change $change, Verification $verification): JsonResponse
    {
        $asked = $verification->purge($change);

        return new JsonResponse(['asked' => $asked, 'verification' => $change->refresh()->verification]);
    }

    /** @return array<string, mixed> */
    private static function row(Change $change): array
    {
        return [
            'id' => $change->id, 'state' => $change->state->value, 'title' => $change->title, 'reason' => $change->reason, 'summary' => (object) $change->summary,
            'by' => $change->author?->name, 'undone_by' => $change->undoer?->name, 'made_at' => $change->created_at->toIso8601String(),
            'applied_at' => $change->applied_at?->toIso8601String(), 'undone_at' => $change->undone_at?->toIso8601String(),
            'stale' => $change->verification['stale'] ?? null,
        ];
    }
}
