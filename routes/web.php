<?php

declare(strict_types=1);

use App\Http\Controllers\AccountController;
use App\Http\Controllers\BagController;
use App\Http\Controllers\ChangeController;
use App\Http\Controllers\CopyController;
use App\Http\Controllers\DeskController;
use App\Http\Controllers\DraftController;
use App\Http\Controllers\FieldMapController;
use App\Http\Controllers\FindController;
use App\Http\Controllers\HostController;
use App\Http\Controllers\LogController;
use App\Http\Controllers\MapController;
use App\Http\Controllers\MediaController;
use App\Http\Controllers\MoveController;
use App\Http\Controllers\OpenApiController;
use App\Http\Controllers\PersonController;
use App\Http\Controllers\PictureController;
use App\Http\Controllers\PlaceController;
use App\Http\Controllers\PlanController;
use App\Http\Controllers\ReadingController;
use App\Http\Controllers\RecordController;
use App\Http\Controllers\RedirectController;
use App\Http\Controllers\RenditionController;
use App\Http\Controllers\RepairController;
use App\Http\Controllers\RestingController;
use App\Http\Controllers\SessionController;
use App\Http\Controllers\SiteController;
use App\Http\Controllers\SurveyController;
use App\Http\Controllers\TrailController;
use App\Http\Controllers\UnreadController;
use App\Http\Controllers\UpController;
use App\Http\Controllers\UploadController;
use App\Http\Controllers\WeightController;
use App\Http\Controllers\WelcomeController;
use App\Http\Middleware\NoMachinePaths;
use Illuminate\Support\Facades\Route;

// What is no number names nothing, and the database is not asked for it.
Route::patterns(
    array_fill_keys(
        [
            'mediaItem',
            'reference',
            'file',
            'record',
            'reading',
            'plan',
            'change',
            'decision',
            'survey',
            'adoption',
            'draft',
            'person',
        ],
        '[1-9][0-9]{0,17}',
    ),
);

// Asked when the database is away, too, so without a session.
Route::get('up', UpController::class)->withoutMiddleware('web');
Route::get('metrics', [UpController::class, 'metrics'])->withoutMiddleware('web');

// The API runs in the web group: session cookie, CSRF token, same origin.
Route::prefix('api')->group(function (): void {
    Route::get('openapi.json', OpenApiController::class);
    Route::get('session', [SessionController::class, 'show']);
    Route::post('session', [SessionController::class, 'store'])->middleware('throttle:sign-in');

    Route::middleware('throttle:sign-in')->group(function (): void {
        Route::post('welcome/check', [WelcomeController::class, 'check']);
        Route::post('welcome', [WelcomeController::class, 'enter']);
        Route::post('forgotten', [WelcomeController::class, 'forgotten']);
    });

    Route::middleware(['auth', 'can:look'])->group(function (): void {
        Route::delete('session', [SessionController::class, 'destroy']);
        Route::put('account/password', [AccountController::class, 'password'])->middleware('throttle:sign-in');
        Route::delete('account/sessions', [AccountController::class, 'leaveEverywhere']);
        Route::get('sites', [SiteController::class, 'index']);
        Route::prefix('people')
            ->middleware('can:own')
            ->group(function (): void {
                Route::get('/', [PersonController::class, 'index']);
                Route::post('/', [PersonController::class, 'store']);
                Route::patch('{person}', [PersonController::class, 'update']);
                Route::post('{person}/link', [PersonController::class, 'link']);
                Route::delete('{person}/sessions', [PersonController::class, 'signOut']);
            });
        Route::prefix('drafts')
            ->middleware('can:own')
            ->group(function (): void {
                Route::get('/', [DraftController::class, 'index']);
                Route::post('/', [DraftController::class, 'store']);
                Route::get('{draft}', [DraftController::class, 'show']);
                Route::put('{draft}', [DraftController::class, 'update']);
                Route::delete('{draft}', [DraftController::class, 'destroy']);
                Route::post('{draft}/proposal', [DraftController::class, 'propose']);
                Route::put('{draft}/map', [DraftController::class, 'map']);
                Route::post('{draft}/try', [DraftController::class, 'try']);
                Route::get('{draft}/tables', [DraftController::class, 'tables']);
                Route::post('{draft}/site', [DraftController::class, 'connect']);
            });

        Route::prefix('sites/{site}')
            ->middleware(NoMachinePaths::class)
            ->scopeBindings()
            ->group(function (): void {
                Route::get('/', [SiteController::class, 'show']);
                Route::patch('/', [SiteController::class, 'update'])->middleware('can:own');
                Route::get('desk', DeskController::class);
                Route::get('readings', [ReadingController::class, 'index']);
                Route::get('media', [MediaController::class, 'index']);
                Route::get('media/facets', [MediaController::class, 'facets']);
                Route::get('media/{mediaItem}', [MediaController::class, 'show']);
                Route::get('media/{mediaItem}/fit', [PlanController::class, 'fit']);
                Route::get('media/{mediaItem}/trail', [TrailController::class, 'show']);
                Route::get('references/{reference}/excerpt', [TrailController::class, 'excerpt']);
                Route::get('files/{file}/picture', PictureController::class);
                Route::get('find', FindController::class);
                Route::get('records', [RecordController::class, 'index']);
                Route::get('records/facets', [RecordController::class, 'facets']);
                Route::get('records/{record}', [RecordController::class, 'show']);
                Route::get('findings/{cause}/groups', [RepairController::class, 'groups']);
                Route::get('findings/{cause}/excerpt', [RepairController::class, 'excerpt']);
                Route::get('let-stand', [RepairController::class, 'allLetStand']);
                Route::get('findings', [PlaceController::class, 'findings']);
                Route::get('survey', [SurveyController::class, 'show']);
                Route::get('survey/{list}', [SurveyController::class, 'list'])->where('list', '[a-z]+');
                Route::get('hosts', [HostController::class, 'index']);
                Route::get('redirects', [RedirectController::class, 'index']);
                Route::get('redirects/export', [RedirectController::class, 'export']);
                Route::get('resting', [RestingController::class, 'index']);
                Route::get('resting/files', [RestingController::class, 'files']);
                Route::get('pictures/{where}/{id}', [RestingController::class, 'picture'])->where([
                    'where' => 'resting|bagged',
                    'id' => '[1-9][0-9]{0,17}',
                ]);
                Route::get('map', [FieldMapController::class, 'show']);
                Route::get('map/versions/{version}', [FieldMapController::class, 'version'])->where(
                    'version',
                    '[1-9][0-9]{0,17}',
                );
                Route::get('map/export', [MapController::class, 'export']);
                Route::get('unread', UnreadController::class);
                Route::get('weight', [WeightController::class, 'index']);
                Route::get('weight/export', [WeightController::class, 'export']);
                Route::get('records/{record}/leaves', [WeightController::class, 'leaves']);
                Route::get('renditions', [RenditionController::class, 'index']);
                Route::get('renditions/files', [RenditionController::class, 'files']);
                Route::get('copies', [CopyController::class, 'index']);
                Route::get('copies/differences', [CopyController::class, 'differences']);
                Route::get('bags', [BagController::class, 'index']);
                Route::get('bags/files', [BagController::class, 'files']);
                Route::get('logs', [LogController::class, 'index']);
                Route::get('media/{mediaItem}/proof', [MediaController::class, 'proof']);
                Route::get('plans/{plan}', [PlanController::class, 'show']);
                Route::get('plans/{plan}/rehearsal', [PlanController::class, 'rehearsal']);
                Route::get('plans/{plan}/steps', [PlanController::class, 'steps']);
                Route::get('plans/{plan}/pictures/{side}', [PlanController::class, 'picture'])->where('side', '[01]');
                Route::get('changes', [ChangeController::class, 'index']);
                Route::get('changes/{change}', [ChangeController::class, 'show']);

                Route::middleware('can:own')->group(function (): void {
                    Route::put('map', [FieldMapController::class, 'update']);
                    Route::post('map/try', [FieldMapController::class, 'try']);
                    Route::get('map/tables', [FieldMapController::class, 'tables']);
                    Route::get('coverage', [FieldMapController::class, 'coverage']);
                    Route::post('coverage/{question}', [FieldMapController::class, 'answer'])
                        ->where('question', '[1-9][0-9]{0,17}');
                    Route::patch('keeping', [RestingController::class, 'keep']);
                    Route::post('bags', [BagController::class, 'store']);
                    Route::delete('bags/{bag}', [BagController::class, 'destroy']);
                });

                Route::middleware('can:maintain')->group(function (): void {
                    Route::post('readings', [ReadingController::class, 'store']);
                    Route::delete('readings/{reading}', [ReadingController::class, 'destroy']);
                    Route::post('uploads', [UploadController::class, 'store'])->middleware('throttle:uploads');
                    Route::get('uploads/{upload}', [UploadController::class, 'show']);
                    Route::get('uploads/{upload}/picture', [UploadController::class, 'picture']);
                    Route::post('plans', [PlanController::class, 'store']);
                    Route::post('repairs', [RepairController::class, 'store']);
                    Route::put('hosts/{host}', [HostController::class, 'decide'])->where('host', '[^/]{1,253}');
                    Route::post('hosts/{host}/accept', [HostController::class, 'accept'])->where('host', '[^/]{1,253}');
                    Route::post('adoptions', [HostController::class, 'fetch']);
                    Route::delete('adoptions/{adoption}', [HostController::class, 'stop']);
                    Route::post('adoptions/plan', [HostController::class, 'plan']);
                    Route::post('moves', [MoveController::class, 'store']);
                    Route::get('moves/names', [MoveController::class, 'names']);
                    Route::post('renditions/redraw', [RenditionController::class, 'redraw']);
                    Route::post('copies/look', [CopyController::class, 'look']);
                    Route::post('merges', [CopyController::class, 'merge']);
                    Route::post('rests', [RestingController::class, 'rest']);
                    Route::post('restores', [RestingController::class, 'restore']);
                    Route::delete('resting/{id}/call', [RestingController::class, 'restOn'])->where(
                        'id',
                        '[1-9][0-9]{0,17}',
                    );
                    Route::post('bags/{bag}/verify', [BagController::class, 'verify']);
                    Route::post('logs', [LogController::class, 'store'])->middleware('throttle:uploads');
                    Route::post('logs/watched', [LogController::class, 'watched']);
                    Route::post('logs/{log}/ours', [LogController::class, 'accept'])->where('log', '[1-9][0-9]{0,17}');
                    Route::post('surveys', [SurveyController::class, 'store']);
                    Route::delete('surveys/{survey}', [SurveyController::class, 'destroy']);
                    Route::post('redirects', [RedirectController::class, 'store']);
                    Route::post('redirects/check', [RedirectController::class, 'check']);
                    Route::post('findings/{cause}/let-stand', [RepairController::class, 'letStand']);
                    Route::delete('let-stand/{decision}', [RepairController::class, 'takeBack']);
                    Route::post('plans/{plan}/apply', [PlanController::class, 'apply']);
                    Route::post('plans/{plan}/again', [PlanController::class, 'again']);
                    Route::delete('plans/{plan}', [PlanController::class, 'destroy']);
                    Route::post('changes/{change}/undo', [ChangeController::class, 'undo']);
                    Route::post('changes/{change}/stop', [ChangeController::class, 'stop']);
                    Route::post('changes/{change}/go-on', [ChangeController::class, 'goOn']);
                    Route::post('changes/{change}/retry', [ChangeController::class, 'retry']);
                    Route::post('changes/{change}/back', [PlanController::class, 'back']);
                    Route::post('changes/{change}/verify', [ChangeController::class, 'verify']);
                    Route::post('changes/{change}/purge', [ChangeController::class, 'purge']);
                });
            });
    });

    Route::any('/', static fn () => abort(404));
    Route::any('{any}', static fn () => abort(404))->where('any', '.*');
});

// Everything else is the interface; its own router knows the stages.
Route::view('{any}', 'app')->where('any', '.*');
