<?php

use App\Http\Controllers\AnnotationController;
use App\Http\Controllers\AuditController;
use App\Http\Controllers\AwayController;
use App\Http\Controllers\BringingController;
use App\Http\Controllers\CaseController;
use App\Http\Controllers\CollectionHealthController;
use App\Http\Controllers\CommentController;
use App\Http\Controllers\CopyController;
use App\Http\Controllers\DeliveryController;
use App\Http\Controllers\DesignController;
use App\Http\Controllers\DeskController;
use App\Http\Controllers\DisposalController;
use App\Http\Controllers\DocumentActController;
use App\Http\Controllers\DocumentController;
use App\Http\Controllers\DocumentMailController;
use App\Http\Controllers\DossierCommentController;
use App\Http\Controllers\DossierController;
use App\Http\Controllers\DraftController;
use App\Http\Controllers\DueController;
use App\Http\Controllers\FeedController;
use App\Http\Controllers\FigureController;
use App\Http\Controllers\HealthController;
use App\Http\Controllers\HoldController;
use App\Http\Controllers\IntakeController;
use App\Http\Controllers\InterfaceController;
use App\Http\Controllers\KeptReportController;
use App\Http\Controllers\LastActController;
use App\Http\Controllers\LiftController;
use App\Http\Controllers\LoanController;
use App\Http\Controllers\MeController;
use App\Http\Controllers\NoticeController;
use App\Http\Controllers\OaiController;
use App\Http\Controllers\OfficeController;
use App\Http\Controllers\PartController;
use App\Http\Controllers\PasswordController;
use App\Http\Controllers\PeopleController;
use App\Http\Controllers\PersonalController;
use App\Http\Controllers\ProcedureController;
use App\Http\Controllers\ProposalController;
use App\Http\Controllers\PullListController;
use App\Http\Controllers\ReadingController;
use App\Http\Controllers\RedactionController;
use App\Http\Controllers\RemoteController;
use App\Http\Controllers\RemovalController;
use App\Http\Controllers\ReportController;
use App\Http\Controllers\RetentionController;
use App\Http\Controllers\SavedSearchController;
use App\Http\Controllers\ScanController;
use App\Http\Controllers\SearchController;
use App\Http\Controllers\ServedController;
use App\Http\Controllers\SessionController;
use App\Http\Controllers\SortingController;
use App\Http\Controllers\SruController;
use App\Http\Controllers\TableController;
use App\Http\Controllers\TaskController;
use App\Http\Controllers\TemplateController;
use App\Http\Controllers\UploadController;
use App\Http\Controllers\ValueActController;
use App\Http\Controllers\VersionController;
use App\Http\Controllers\VocabularyController;
use App\Http\Controllers\WebhookController;
use App\Http\Controllers\WorkController;
use App\Http\Controllers\WorkFormController;
use Illuminate\Support\Facades\Route;

Route::prefix('api')->group(function (): void {
    Route::get('session', [SessionController::class, 'show']);
    Route::post('session', [SessionController::class, 'store']);
    Route::post('session/code', [PasswordController::class, 'choose']);
    Route::post('session/factor', [SessionController::class, 'factor']);
    Route::post('session/forgotten', [SessionController::class, 'forgotten'])->middleware('throttle:forgotten');

    Route::middleware('auth')->group(function (): void {
        Route::delete('session', [SessionController::class, 'destroy']);
        Route::get('desk', DeskController::class);
        Route::get('design', DesignController::class);
        Route::get('vocabularies/{code}/terms', [VocabularyController::class, 'terms']);

        Route::post('search', [SearchController::class, 'search']);
        Route::post('search/themes', [SearchController::class, 'themes']);
        Route::post('search/groups', [SearchController::class, 'groups']);
        Route::post('search/attached/{document:ref}', [SearchController::class, 'attached']);
        Route::post('search/criterion', [SearchController::class, 'criterion']);

        Route::get('documents/{document:ref}', [DocumentController::class, 'show']);
        Route::get('documents/{document:ref}/sight', [DocumentController::class, 'sight'])->middleware('can:see-sight');
        Route::get('documents/{document:ref}/why/{person}', [DocumentController::class, 'why'])->middleware('can:explain');
        Route::put('documents/{document:ref}', [DocumentController::class, 'update']);
        Route::put('documents/{document:ref}/language', [DocumentController::class, 'language']);
        Route::get('documents/{document:ref}/hits', [DocumentController::class, 'hits']);
        Route::get('documents/{document:ref}/pages/{number}', [DocumentController::class, 'page'])->whereNumber('number');
        Route::get('documents/{document:ref}/file', [DocumentController::class, 'file']);
        Route::post('documents/{document:ref}/reveal', [DocumentController::class, 'reveal']);
        Route::get('documents/{document:ref}/annotations', [AnnotationController::class, 'index']);
        Route::post('documents/{document:ref}/annotations', [AnnotationController::class, 'store']);
        Route::post('documents/{document:ref}/annotations/take-in', [AnnotationController::class, 'takeIn']);
        Route::put('documents/{document:ref}/annotations/{annotation}', [AnnotationController::class, 'update'])->whereNumber('annotation');
        Route::delete('documents/{document:ref}/annotations/{annotation}', [AnnotationController::class, 'destroy'])->whereNumber('annotation');
        Route::post('documents/{document:ref}/annotations/{annotation}/restore', [AnnotationController::class, 'restore'])->whereNumber('annotation');
        Route::middleware('can:redact')->group(function (): void {
            Route::get('documents/{document:ref}/redactions', [RedactionController::class, 'index']);
            Route::post('documents/{document:ref}/redactions', [RedactionController::class, 'store']);
            Route::post('documents/{document:ref}/redactions/find', [RedactionController::class, 'find']);
            Route::post('documents/{document:ref}/redactions/take-back', [RedactionController::class, 'takeBack']);
            Route::post('documents/{document:ref}/redactions/again', [RedactionController::class, 'again']);
            Route::post('documents/{document:ref}/redactions/check', [RedactionController::class, 'check']);
        });
        Route::get('documents/{document:ref}/copies', [CopyController::class, 'index']);
        Route::get('documents/{document:ref}/copies/{other}', [CopyController::class, 'compare']);
        Route::get('documents/{document:ref}/versions', [VersionController::class, 'index']);
        Route::get('documents/{document:ref}/versions/compare', [VersionController::class, 'compare']);
        Route::get('documents/{document:ref}/loans', [LoanController::class, 'index']);
        Route::get('work-in-progress', [VersionController::class, 'inProgress']);
        Route::delete('documents/{document:ref}/check-out', [VersionController::class, 'giveUp']);
        Route::get('documents/{document:ref}/lifted', [LiftController::class, 'lifted']);
        Route::get('documents/{document:ref}/history', [DocumentController::class, 'history']);
        Route::put('documents/{document:ref}/pin', [DocumentController::class, 'pin']);
        Route::delete('documents/{document:ref}/pin', [DocumentController::class, 'unpin']);
        Route::get('documents/{document:ref}/comments', [CommentController::class, 'index']);
        Route::post('documents/{document:ref}/comments', [CommentController::class, 'store']);
        Route::delete('documents/{document:ref}/comments/{comment}', [CommentController::class, 'destroy'])->whereNumber('comment');

        Route::get('documents/{document:ref}/cases', [CaseController::class, 'index']);
        Route::post('documents/{document:ref}/cases', [CaseController::class, 'store'])->middleware('can:fill');
        Route::post('cases/{case}/go-on', [CaseController::class, 'goOn'])->whereNumber('case');
        Route::post('cases/{case}/move', [CaseController::class, 'move'])->whereNumber('case');
        Route::post('cases/{case}/cancel', [CaseController::class, 'giveUp'])->whereNumber('case');
        Route::put('dossiers/{dossier}/closed', [DossierController::class, 'close'])->middleware('can:change');
        Route::get('documents/{document:ref}/retention', [RetentionController::class, 'show']);
        Route::post('documents/{document:ref}/retention', [RetentionController::class, 'decide'])->middleware('can:destroy');
        Route::middleware('can:see-health')->prefix('oversight/health')->group(function (): void {
            Route::get('', [CollectionHealthController::class, 'index']);
            Route::post('files', [CollectionHealthController::class, 'readFiles']);
            Route::post('files/{sha256}', [CollectionHealthController::class, 'restore'])->where('sha256', '[0-9a-f]{64}');
            Route::post('index', [CollectionHealthController::class, 'rebuild']);
            Route::post('index/compare', [CollectionHealthController::class, 'compare']);
            Route::post('again', [CollectionHealthController::class, 'again']);
            Route::post('mail', [CollectionHealthController::class, 'mail']);
            Route::post('sources/{source}', [CollectionHealthController::class, 'source']);
            Route::post('remotes/{code}', [CollectionHealthController::class, 'remote']);
        });
        Route::middleware('can:look-over')->prefix('oversight')->group(function (): void {
            Route::get('due', [DueController::class, 'index']);
            Route::get('due/period', [DueController::class, 'period']);
            Route::get('stub', [RetentionController::class, 'stub']);
            Route::put('stub', [RetentionController::class, 'keepStub'])->middleware('can:destroy');
            Route::get('disposals', [DisposalController::class, 'index']);
            Route::get('disposals/{disposal}', [DisposalController::class, 'show'])->whereNumber('disposal');
            Route::get('disposals/{disposal}/items', [DisposalController::class, 'items'])->whereNumber('disposal');
            Route::get('disposals/{disposal}/certificate.{form}', [DisposalController::class, 'certificate'])
                ->whereNumber('disposal')
                ->whereIn('form', ['json', 'pdf']);
            Route::middleware('can:oversee')->group(function (): void {
                Route::get('reports', [KeptReportController::class, 'index']);
                Route::post('reports/kept', [KeptReportController::class, 'store']);
                Route::delete('reports/kept/{kept}', [KeptReportController::class, 'destroy'])->whereNumber('kept');
                Route::get('reports/{report}.csv', [ReportController::class, 'csv'])->middleware('can:download');
                Route::get('reports/{report}.ods', [ReportController::class, 'ods'])->middleware('can:download');
                Route::get('reports/{report}', [ReportController::class, 'show']);
                Route::get('history', [AuditController::class, 'index']);
                Route::get('history/choices', [AuditController::class, 'choices']);
                Route::put('history/rules', [AuditController::class, 'keep']);
                Route::get('history/export.{form}', [AuditController::class, 'export'])->whereIn('form', ['csv', 'jsonl']);
            });
            Route::middleware('can:dispose')->group(function (): void {
                Route::post('disposals', [DisposalController::class, 'store']);
                Route::post('disposals/{disposal}/review', [DisposalController::class, 'review'])->whereNumber('disposal');
                Route::post('disposals/{disposal}/submit', [DisposalController::class, 'submit'])->whereNumber('disposal');
                Route::post('disposals/{disposal}/approve', [DisposalController::class, 'approve'])->whereNumber('disposal')->middleware('can:destroy');
                Route::post('disposals/{disposal}/return', [DisposalController::class, 'sendBack'])->whereNumber('disposal')->middleware('can:destroy');
                Route::post('disposals/{disposal}/cancel', [DisposalController::class, 'cancel'])->whereNumber('disposal');
                Route::post('disposals/{disposal}/receipt', [DisposalController::class, 'receive'])->whereNumber('disposal');
                Route::post('disposals/{disposal}/go-on', [DisposalController::class, 'goOn'])->whereNumber('disposal');
            });
        });
        Route::get('holds', [HoldController::class, 'index']);
        Route::get('holds/people', [HoldController::class, 'people'])->middleware('can:hold');
        Route::post('holds', [HoldController::class, 'store'])->middleware('can:hold');
        Route::get('holds/{hold}', [HoldController::class, 'show'])->whereNumber('hold');
        Route::put('holds/{hold}', [HoldController::class, 'update'])->whereNumber('hold')->middleware('can:hold');
        Route::get('holds/{hold}/documents', [HoldController::class, 'items'])->whereNumber('hold');
        Route::post('holds/{hold}/documents', [HoldController::class, 'cover'])->whereNumber('hold')->middleware('can:hold');
        Route::post('holds/{hold}/release', [HoldController::class, 'uncover'])->whereNumber('hold')->middleware('can:hold');
        Route::post('holds/{hold}/end', [HoldController::class, 'end'])->whereNumber('hold')->middleware('can:hold');
        Route::post('holds/{hold}/remind', [HoldController::class, 'remind'])->whereNumber('hold')->middleware('can:hold');
        Route::post('holds/{hold}/acknowledge', [HoldController::class, 'acknowledge'])->whereNumber('hold');
        Route::get('tasks/figures', [FigureController::class, 'index']);
        Route::get('tasks/figures/csv', [FigureController::class, 'csv'])->middleware('can:download');
        Route::get('tasks', [TaskController::class, 'index']);
        Route::post('tasks/decide', [TaskController::class, 'decideMany']);
        Route::get('tasks/{task}', [TaskController::class, 'show'])->whereNumber('task');
        Route::get('tasks/{task}/people', [TaskController::class, 'people'])->whereNumber('task');
        Route::post('tasks/{task}/take', [TaskController::class, 'take'])->whereNumber('task');
        Route::post('tasks/{task}/put-back', [TaskController::class, 'putBack'])->whereNumber('task');
        Route::post('tasks/{task}/give', [TaskController::class, 'give'])->whereNumber('task');
        Route::post('tasks/{task}/ask', [TaskController::class, 'ask'])->whereNumber('task');
        Route::post('tasks/{task}/answer', [TaskController::class, 'answer'])->whereNumber('task');
        Route::post('tasks/{task}/decide', [TaskController::class, 'decide'])->whereNumber('task');
        Route::get('counts', [NoticeController::class, 'counts']);
        Route::get('notices', [NoticeController::class, 'index']);
        Route::post('notices/seen', [NoticeController::class, 'seen']);
        Route::get('notices/texts', [NoticeController::class, 'texts'])->middleware('can:administer');
        Route::put('notices/texts', [NoticeController::class, 'setTexts'])->middleware('can:administer');

        Route::post('remote/{code}/search', [RemoteController::class, 'search']);
        Route::get('remote/{code}/file', [RemoteController::class, 'file']);
        Route::post('search/complete', [SearchController::class, 'complete']);
        Route::post('search/group', [SearchController::class, 'group']);
        Route::post('search/apart', [SearchController::class, 'apart']);
        Route::post('search/export', [SearchController::class, 'export'])->middleware('can:download');
        Route::get('searches', [SavedSearchController::class, 'index']);
        Route::post('searches', [SavedSearchController::class, 'store']);
        Route::put('searches/{search}', [SavedSearchController::class, 'update'])->whereNumber('search');
        Route::delete('searches/{search}', [SavedSearchController::class, 'destroy'])->whereNumber('search');
        Route::post('searches/{search}/look', [SavedSearchController::class, 'look'])->whereNumber('search');
        Route::delete('searches/{search}/look', [SavedSearchController::class, 'unwatch'])->whereNumber('search');
        Route::post('searches/{search}/feed', [FeedController::class, 'store'])->whereNumber('search');
        Route::delete('searches/{search}/feed', [FeedController::class, 'destroy'])->whereNumber('search');
        Route::post('searches/recent', [SavedSearchController::class, 'recent']);

        Route::get('lists', [PullListController::class, 'index']);
        Route::post('lists', [PullListController::class, 'store']);
        Route::get('lists/{list}', [PullListController::class, 'show'])->whereNumber('list');
        Route::put('lists/{list}', [PullListController::class, 'update'])->whereNumber('list');
        Route::delete('lists/{list}', [PullListController::class, 'destroy'])->whereNumber('list');
        Route::post('lists/{list}/restore', [PullListController::class, 'restore'])->whereNumber('list');
        Route::post('lists/{list}/documents', [PullListController::class, 'add'])->whereNumber('list');
        Route::post('lists/{list}/take-out', [PullListController::class, 'takeOut'])->whereNumber('list');
        Route::put('lists/{list}/documents/{document}', [PullListController::class, 'item'])->whereNumber('list');
        Route::post('lists/{list}/freeze', [PullListController::class, 'freeze'])->whereNumber('list');
        Route::delete('lists/{list}/search', [PullListController::class, 'follow'])->whereNumber('list');
        Route::get('lists/{list}/check', [PullListController::class, 'check'])->whereNumber('list');
        Route::get('lists/{list}/against/{other}', [PullListController::class, 'against'])->whereNumber(['list', 'other']);
        Route::post('lists/{list}/hold', [PullListController::class, 'hold'])->whereNumber('list')->middleware('can:hold');
        Route::post('lists/{list}/deliveries', [DeliveryController::class, 'store'])->whereNumber('list')->middleware('can:download');
        Route::get('deliveries/{delivery}', [DeliveryController::class, 'show'])->whereNumber('delivery');
        Route::post('deliveries/{delivery}/cancel', [DeliveryController::class, 'cancel'])->whereNumber('delivery');
        Route::get('deliveries/{delivery}/file', [DeliveryController::class, 'file'])->whereNumber('delivery')->middleware('can:download');
        Route::post('deliveries/{delivery}/links', [DeliveryController::class, 'link'])->whereNumber('delivery')->middleware('can:download');
        Route::post('documents/{document:ref}/links', [DeliveryController::class, 'documentLink'])->middleware('can:download');
        Route::get('outbox', [DeliveryController::class, 'outbox']);
        Route::get('links', [DeliveryController::class, 'links']);
        Route::post('links/{link}/revoke', [DeliveryController::class, 'revoke'])->whereNumber('link');

        Route::post('documents/mail', DocumentMailController::class)->middleware('can:download');
        Route::get('acts', [LastActController::class, 'index']);
        Route::post('document-acts/{act}/undo', [LastActController::class, 'undo'])->whereNumber('act');

        Route::middleware('can:remove')->group(function (): void {
            Route::get('removed', [RemovalController::class, 'index']);
            Route::post('removed', [RemovalController::class, 'remove']);
            Route::post('removed/restore', [RemovalController::class, 'restore']);
            Route::post('removed/destroy', [RemovalController::class, 'destroy'])->middleware('can:destroy');
        });

        Route::get('dossiers', [DossierController::class, 'index']);
        Route::get('dossiers/{dossier}', [DossierController::class, 'show']);
        Route::get('dossiers/{dossier}/comments', [DossierCommentController::class, 'index']);
        Route::post('dossiers/{dossier}/comments', [DossierCommentController::class, 'store']);
        Route::delete('dossiers/{dossier}/comments/{comment}', [DossierCommentController::class, 'destroy'])->whereNumber('comment');

        Route::put('me/views/{code}', [PersonalController::class, 'putView']);
        Route::delete('me/views/{code}', [PersonalController::class, 'removeView']);
        Route::put('me/preferences', [PersonalController::class, 'preferences']);

        Route::middleware('can:fill')->group(function (): void {
            Route::post('dossiers', [DossierController::class, 'store']);
            Route::post('tables/look-up', [TableController::class, 'lookUp']);
            Route::post('intake/lift', [LiftController::class, 'value']);
            Route::post('documents/{document:ref}/area', [LiftController::class, 'area']);
            Route::get('documents/{document:ref}/places', [LiftController::class, 'places']);
        });
        Route::middleware('can:change')->group(function (): void {
            Route::put('dossiers/{dossier}', [DossierController::class, 'update']);
            Route::post('dossiers/{dossier}/documents', [DossierController::class, 'put']);
            Route::post('dossiers/{dossier}/take-out', [DossierController::class, 'takeOut']);
            Route::post('documents/{document:ref}/check-out', [VersionController::class, 'checkOut']);
            Route::post('documents/{document:ref}/check-out/copy', [VersionController::class, 'putBy']);
            Route::post('documents/{document:ref}/check-in', [VersionController::class, 'checkIn'])->name('check-in');
            Route::post('documents/{document:ref}/versions/{version}/make-current', [VersionController::class, 'makeCurrent'])->whereNumber('version');
            Route::post('documents/{document:ref}/loans', [LoanController::class, 'store']);
            Route::post('documents/{document:ref}/loans/{loan}/return', [LoanController::class, 'return'])->whereNumber('loan');
            Route::post('documents/{document:ref}/loans/{loan}/end', [LoanController::class, 'end'])->whereNumber('loan');
            Route::post('documents/{document:ref}/pages', [VersionController::class, 'arrange']);
            Route::post('documents/{document:ref}/split', [VersionController::class, 'split']);
            Route::match(['PUT', 'DELETE'], 'documents/{document:ref}/template', [VersionController::class, 'template']);
            Route::post('document-acts/transfer/plan', [DocumentActController::class, 'planTransfer']);
            Route::post('document-acts/transfer', [DocumentActController::class, 'transfer']);
            Route::post('document-acts/sheets/open', [DocumentActController::class, 'sheets']);
            Route::post('document-acts/sheets/plan', [DocumentActController::class, 'planSheets']);
            Route::post('document-acts/sheets', [DocumentActController::class, 'giveSheets']);
            Route::post('value-acts', [ValueActController::class, 'store']);
            Route::post('value-acts/plan', [ValueActController::class, 'plan']);
            Route::get('value-acts/{act}', [ValueActController::class, 'show'])->whereNumber('act');
            Route::post('value-acts/{act}/go-on', [ValueActController::class, 'goOn'])->whereNumber('act');
            Route::post('value-acts/{act}/undo', [ValueActController::class, 'undo'])->whereNumber('act');
        });
        Route::middleware('can:file')->group(function (): void {
            Route::post('documents/{document:ref}/template/new', [VersionController::class, 'fromTemplate']);
            Route::post('remote/{code}/take', [RemoteController::class, 'take']);
            Route::get('intake', [IntakeController::class, 'index']);
            Route::post('intake', [IntakeController::class, 'store']);
            Route::post('intake/uploads', [UploadController::class, 'store']);
            Route::get('intake/uploads/{key}', [UploadController::class, 'show'])->whereAlphaNumeric('key');
            Route::patch('intake/uploads/{key}', [UploadController::class, 'append'])->whereAlphaNumeric('key');
            Route::delete('intake/uploads/{key}', [UploadController::class, 'destroy'])->whereAlphaNumeric('key');
            Route::get('intake/templates', [TemplateController::class, 'index']);
            Route::post('intake/templates', [TemplateController::class, 'store']);
            Route::get('intake/scanners', [ScanController::class, 'index']);
            Route::get('intake/scanners/{code}', [ScanController::class, 'scanner']);
            Route::post('intake/scans', [ScanController::class, 'store']);
            Route::get('intake/scans/{scan}', [ScanController::class, 'show'])->whereNumber('scan');
            Route::get('intake/scans/{scan}/pages/{page}', [ScanController::class, 'page'])->whereNumber(['scan', 'page']);
            Route::post('intake/scans/{scan}/go-on', [ScanController::class, 'goOn'])->whereNumber('scan');
            Route::post('intake/scans/{scan}/keep', [ScanController::class, 'keep'])->whereNumber('scan');
            Route::delete('intake/scans/{scan}', [ScanController::class, 'destroy'])->whereNumber('scan');
            Route::get('intake/count', [IntakeController::class, 'count']);
            Route::get('intake/hands', [IntakeController::class, 'hands']);
            Route::post('intake/hand-over', [IntakeController::class, 'handOver']);
            Route::put('intake/sheets/{document:ref}', [IntakeController::class, 'keep']);
            Route::post('intake/versions', [CopyController::class, 'version']);
            Route::post('intake/values', [IntakeController::class, 'values']);
            Route::post('intake/file', [IntakeController::class, 'file']);
            Route::post('intake/file-complete', [IntakeController::class, 'fileComplete']);
            Route::post('intake/discard', [IntakeController::class, 'discard']);
            Route::post('intake/library', [IntakeController::class, 'move']);
            Route::get('intake/pages', [SortingController::class, 'index']);
            Route::post('intake/pages', [SortingController::class, 'store']);
            Route::post('intake/pages/{work}/undo', [SortingController::class, 'undo'])->whereNumber('work');
            Route::get('intake/separator-sheets', [SortingController::class, 'sheets']);
            Route::get('documents/{document:ref}/thumb', [SortingController::class, 'thumb']);
            Route::get('documents/{document:ref}/proposals', [ReadingController::class, 'proposals']);
            Route::post('intake/restore', [IntakeController::class, 'restore']);
        });

        Route::put('me/password', [PasswordController::class, 'change'])->middleware('throttle:own-password');
        Route::put('me', [MeController::class, 'update'])->middleware('throttle:own-password');
        Route::get('me/away', [AwayController::class, 'show']);
        Route::put('me/away', [AwayController::class, 'update']);
        Route::get('me/sessions', [MeController::class, 'sessions']);
        Route::delete('me/sessions', [MeController::class, 'endSessions']);
        Route::delete('me/sessions/{session}', [MeController::class, 'endSession'])->whereNumber('session');
        Route::get('me/tokens', [MeController::class, 'tokens']);
        Route::post('me/tokens', [MeController::class, 'makeToken']);
        Route::delete('me/tokens/{apiToken}', [MeController::class, 'revokeToken'])->whereNumber('apiToken');
        Route::get('me/webhooks', [WebhookController::class, 'index']);
        Route::post('me/webhooks', [WebhookController::class, 'store']);
        Route::post('me/webhooks/{webhook}/try', [WebhookController::class, 'tryOut'])->whereNumber('webhook')->middleware('throttle:own-password');
        Route::post('me/webhooks/{webhook}/start', [WebhookController::class, 'start'])->whereNumber('webhook');
        Route::delete('me/webhooks/{webhook}', [WebhookController::class, 'destroy'])->whereNumber('webhook');
        Route::post('me/factor', [MeController::class, 'beginFactor']);
        Route::put('me/factor', [MeController::class, 'turnOnFactor'])->middleware('throttle:own-password');
        Route::delete('me/factor', [MeController::class, 'turnOffFactor'])->middleware('throttle:own-password');

        Route::middleware('can:administer')->prefix('office')->group(function (): void {
            Route::get('people', [OfficeController::class, 'index']);
            Route::post('people', [OfficeController::class, 'store']);
            Route::put('people/{person}', [OfficeController::class, 'update'])->whereNumber('person');
            Route::post('people/{person}/code', [OfficeController::class, 'code'])->whereNumber('person');
            Route::post('people/{person}/out', [OfficeController::class, 'putOut'])->whereNumber('person');
            Route::post('people/{person}/back', [OfficeController::class, 'bringBack'])->whereNumber('person');
            Route::delete('people/{person}/sessions', [OfficeController::class, 'endSessions'])->whereNumber('person');
            Route::delete('people/{person}/factor', [OfficeController::class, 'turnOffFactor'])->whereNumber('person');
            Route::get('health', [HealthController::class, 'index']);
            Route::post('health/{alarm}/done', [HealthController::class, 'done'])->whereNumber('alarm');
            Route::get('people.csv', [OfficeController::class, 'table']);
            Route::post('people/table', [OfficeController::class, 'take']);
            Route::put('rules', [OfficeController::class, 'rules']);
            Route::get('served', [ServedController::class, 'show']);
            Route::put('served', [ServedController::class, 'keep']);
            Route::delete('webhooks/{webhook}', [ServedController::class, 'removeWebhook'])->whereNumber('webhook');
            Route::delete('tokens/{apiToken}', [ServedController::class, 'revoke'])->whereNumber('apiToken');
            Route::post('roles', [OfficeController::class, 'addRole']);
            Route::put('roles/{role}', [OfficeController::class, 'changeRole']);
            Route::delete('roles/{role}', [OfficeController::class, 'removeRole']);
            Route::get('people/{person}/work', [AwayController::class, 'of'])->whereNumber('person');
            Route::put('people/{person}/work', [AwayController::class, 'person'])->whereNumber('person');
            Route::get('calendar', [AwayController::class, 'calendar']);
            Route::put('calendar', [AwayController::class, 'setCalendar']);
            Route::put('groups/{group}', [OfficeController::class, 'groups'])->whereNumber('group');
        });

        Route::middleware('can:design')->prefix('design')->group(function (): void {
            Route::put('settings', [PersonalController::class, 'office']);
            Route::get('draft', [DraftController::class, 'show']);
            Route::get('draft/effects', [DraftController::class, 'effects']);
            Route::post('draft/discard', [DraftController::class, 'discard']);
            Route::post('draft/publish', [DraftController::class, 'publish']);
            Route::post('advice', [DraftController::class, 'advice']);
            Route::post('readings/trial', [ReadingController::class, 'trial']);
            Route::post('procedures/trial', [ProcedureController::class, 'trial']);
            Route::get('work_forms/{code}/address', [WorkFormController::class, 'address']);
            Route::post('work_forms/{code}/address', [WorkFormController::class, 'makeAddress']);
            Route::delete('work_forms/{code}/address', [WorkFormController::class, 'revokeAddress']);
            Route::get('procedures/{code}/cases', [ProcedureController::class, 'running']);
            Route::post('procedures/{code}/cases/move', [ProcedureController::class, 'move']);
            Route::get('versions', [DraftController::class, 'versions']);
            Route::get('versions/{version}', [DraftController::class, 'compare'])->whereNumber('version');
            Route::post('versions/{version}/restore', [DraftController::class, 'restore'])->whereNumber('version');
            Route::get('file', [DraftController::class, 'export']);
            Route::post('file', [DraftController::class, 'import']);
            Route::post('merge-fields', [DraftController::class, 'mergeFields']);
            Route::post('work/{work}/stop', [WorkController::class, 'stop'])->whereNumber('work');
            Route::post('work/{work}/go-on', [WorkController::class, 'goOn'])->whereNumber('work');
            Route::get('work', [WorkController::class, 'index']);
            Route::get('people', [PeopleController::class, 'index']);
            Route::post('people/groups', [PeopleController::class, 'group']);
            Route::delete('people/groups/{group}', [PeopleController::class, 'removeGroup']);
            Route::put('people/{person}', [PeopleController::class, 'update'])->whereNumber('person');
            Route::get('people/{person}/sight', [PeopleController::class, 'sight'])->whereNumber('person');
            Route::get('vocabularies/{code}/terms', [VocabularyController::class, 'draftTerms']);
            Route::get('vocabularies/{code}/counts', [VocabularyController::class, 'counts']);
            Route::get('vocabularies/{code}/doubles', [VocabularyController::class, 'doubles']);
            Route::get('vocabularies/{code}/file', [VocabularyController::class, 'export']);
            Route::post('vocabularies/{code}/file', [VocabularyController::class, 'preview']);
            Route::post('remote/look', [RemoteController::class, 'look']);
            Route::get('proposal', [ProposalController::class, 'show']);
            Route::post('proposal', [ProposalController::class, 'store']);
            Route::post('proposal/take', [ProposalController::class, 'take']);
            Route::delete('proposal', [ProposalController::class, 'destroy']);
            Route::get('bringing', [BringingController::class, 'show']);
            Route::post('bringing', [BringingController::class, 'store']);
            Route::post('bringing/open', [BringingController::class, 'open']);
            Route::get('bringing/wanted', [BringingController::class, 'wanted']);
            Route::post('bringing/files', [BringingController::class, 'files']);
            Route::post('bringing/finish', [BringingController::class, 'finish']);
            Route::post('bringing/undo', [BringingController::class, 'undo']);
            Route::delete('bringing', [BringingController::class, 'destroy']);
            Route::post('tables/read', [TableController::class, 'read']);
            Route::get('tables/{code}/state', [TableController::class, 'state']);
            Route::get('{kind}/{code}', [PartController::class, 'show']);
            Route::post('{kind}', [PartController::class, 'store']);
            Route::put('{kind}/{code}', [PartController::class, 'update']);
            Route::delete('{kind}/{code}', [PartController::class, 'destroy']);
        });
    });

    Route::any('{any}', [InterfaceController::class, 'nothing'])->where('any', '.*');
});

// For programs that watch over the server. They ask every few seconds, and need no session.
Route::withoutMiddleware('web')->group(function (): void {
    Route::get('health/live', [HealthController::class, 'live']);
    Route::get('health/ready', [HealthController::class, 'ready']);
});
Route::get('metrics', [HealthController::class, 'metrics']);

// For programs, by open protocols. They ask with a token or as anybody, and have no session.
Route::withoutMiddleware('web')->middleware('throttle:served')->group(function (): void {
    Route::match(['get', 'post'], 'sru', SruController::class);
    Route::match(['get', 'post'], 'oai', OaiController::class);
    Route::get('feeds/{token}.{form}', [FeedController::class, 'show'])->where('token', '[A-Za-z0-9]{40}')->whereIn('form', ['atom', 'json']);
});

// What people outside fetch, without an account. Few tries a minute, so that nobody guesses.
Route::get('outside/{token}', [DeliveryController::class, 'outside'])->middleware('throttle:link-look');
Route::post('outside/{token}', [DeliveryController::class, 'fetch'])->middleware('throttle:link-fetch');

// Work forms, which people outside fill in. What one form takes within an hour has a limit of its own.
Route::get('form/{key}', [WorkFormController::class, 'show'])->middleware('throttle:form-look');
Route::post('form/{key}', [WorkFormController::class, 'send'])->middleware('throttle:form-send');

// The team space that ships with the application: where people outside work on what was lent to them.
Route::get('team-space/{key}', [LoanController::class, 'outside'])->middleware('throttle:space-look');
Route::get('team-space/{key}/file', [LoanController::class, 'outsideFile'])->middleware('throttle:space-fetch');
Route::post('team-space/{key}', [LoanController::class, 'outsideChange'])->middleware('throttle:space-change');

// Every other address belongs to the interface, so that it survives a reload and can be sent to a colleague.
Route::get('{any}', [InterfaceController::class, 'show'])->where('any', '.*');
